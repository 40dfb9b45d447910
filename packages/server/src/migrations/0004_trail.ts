// breaking: no — the audit trail, usage, mail.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table events (
      seq bigint primary key,
      at timestamptz not null,
      actor text not null,
      for_name text,
      kind text not null,
      document_id uuid,
      revision_id uuid,
      person_id uuid,
      text text not null,
      hash text not null constraint event_hash_unique unique,
      prev text not null constraint event_prev_unique unique
    );
    create index events_by_document on events (document_id, seq desc) where document_id is not null;
    create index events_by_actor on events (actor, seq desc);
    create index events_by_kind on events (kind, seq desc);
    -- Append-only and gap-free, whoever writes.
    create function event_guard() returns trigger language plpgsql as $$
    begin
      if tg_op <> 'INSERT' then
        raise exception 'the audit trail is append-only' using errcode = 'KN007', constraint = 'trail_append_only';
      end if;
      if new.seq <> 1 and not exists (select 1 from events where seq = new.seq - 1 and hash = new.prev) then
        raise exception 'the audit trail has no gap' using errcode = 'KN008', constraint = 'trail_gap_free';
      end if;
      return new;
    end $$;
    create trigger event_guard before insert or update or delete on events for each row execute function event_guard();
    create trigger event_guard_truncate before truncate on events for each statement execute function event_guard();

    create table heads (
      day date primary key,
      size bigint not null,
      root text not null,
      at timestamptz not null,
      key text not null,
      signature text not null
    );
    -- The tree as it grows, so that a head does not read the whole trail again.
    create table tree_state (id int primary key default 1 check (id = 1), size bigint not null, peaks text[] not null);

    create table usage (
      id bigint generated always as identity primary key,
      at timestamptz not null,
      person_id uuid not null references people,
      document_id uuid not null references documents,
      revision_id uuid not null,
      version int not null,
      file_id uuid,
      action text not null constraint usage_action_known check (action in ('opened', 'downloaded', 'handed out')),
      sealed_by bigint
    );
    create index usage_by_document on usage (document_id, at desc);
    create index usage_by_person on usage (person_id, at desc);
    create index usage_unsealed on usage (id) where sealed_by is null;

    create table mails (
      id uuid primary key,
      person_id uuid references people,
      address text not null,
      kind text not null,
      subject text not null,
      html text not null,
      text text not null,
      created_at timestamptz not null,
      state text not null default 'waiting' constraint mail_state_known check (state in ('waiting', 'sent', 'failed', 'held for summary')),
      sent_at timestamptz,
      tries int not null default 0,
      error text
    );
    create index mails_by_time on mails (created_at desc);
    create index mails_held on mails (person_id) where state = 'held for summary';
  `);
};
