// breaking: no — The audit trail with its heads, usage, mail, reminders and failed background work.
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
      hash text not null,
      prev text not null,
      signature_id uuid,
      constraint event_hash_unique unique (hash),
      constraint event_prev_unique unique (prev)
    );
    create index events_by_document on events (document_id, seq desc) where (document_id is not null);
    create index events_by_actor on events (actor, seq desc);
    create index events_by_kind on events (kind, seq desc);
    create index events_by_signature on events (signature_id) where (signature_id is not null);

    create table heads (
      day date not null,
      size bigint primary key,
      root text not null,
      at timestamptz not null,
      key text not null,
      signature text not null,
      -- Heads of the trail: several a day, each with the peaks of its tree, so that nothing of the tree is ever updated.
      peaks text[]
    );

    create table usage (
      id bigint generated always as identity primary key,
      at timestamptz not null,
      person_id uuid not null references people,
      document_id uuid not null references documents,
      revision_id uuid not null,
      version int not null,
      file_id uuid,
      action text not null,
      sealed_by bigint,
      constraint usage_action_known check (action in ('opened', 'downloaded', 'handed out'))
    );
    create index usage_by_document on usage (document_id, at desc);
    create index usage_by_person on usage (person_id, at desc);
    create index usage_unsealed on usage (id) where (sealed_by is null);

    create table mails (
      id uuid primary key,
      person_id uuid references people,
      address text not null,
      kind text not null,
      subject text not null,
      html text not null,
      text text not null,
      created_at timestamptz not null,
      state text not null default 'waiting',
      sent_at timestamptz,
      tries int not null default 0,
      error text,
      -- A mail that was not taken is tried again for days, with growing pauses.
      next_try_at timestamptz,
      -- The secret of a link, hidden, until the mail is sent; the stored body never contains it.
      secret text,
      constraint mail_state_known check (state in ('waiting', 'sent', 'failed', 'held for summary'))
    );
    create index mails_by_time on mails (created_at desc);
    create index mails_held on mails (person_id) where (state = 'held for summary');
    create index mails_failed on mails (next_try_at) where (state = 'failed');

    create table reminders_sent (
      document_id uuid references documents,
      what text,
      on_day date,
      person_id uuid references people,
      at timestamptz not null,
      primary key (document_id, what, on_day, person_id)
    );
    create index reminders_sent_of on reminders_sent (document_id, person_id);

    -- Background work on one thing that failed: tried again with growing pauses, then set aside until somebody looks at it.
    create table failed_work (
      kind text,
      subject text,
      label text not null,
      document_id uuid references documents,
      reason text not null,
      tries int not null,
      first_at timestamptz not null,
      last_at timestamptz not null,
      next_at timestamptz not null,
      set_aside boolean not null default false,
      primary key (kind, subject)
    );
    create index failed_work_set_aside on failed_work (last_at) where set_aside;

    -- Append-only and gap-free, whoever writes.
    create function event_guard() returns trigger language plpgsql
AS $$
    begin
      if tg_op <> 'INSERT' then
        raise exception 'the audit trail is append-only' using errcode = 'KN007', constraint = 'trail_append_only';
      end if;
      if new.seq <> 1 and not exists (select 1 from events where seq = new.seq - 1 and hash = new.prev) then
        raise exception 'the audit trail has no gap' using errcode = 'KN008', constraint = 'trail_gap_free';
      end if;
      return new;
    end $$;

    create trigger event_guard before insert or delete or update on events for each row execute function event_guard();

    create trigger event_guard_truncate before truncate on events for each statement execute function event_guard();

    -- Volatile, so that the reading has a snapshot of its own that is younger than the lock.
    create function trail_head(OUT seq bigint, OUT hash text, OUT at timestamp with time zone) returns SETOF record language plpgsql
AS $$
    begin
      perform pg_advisory_xact_lock(7204101);
      return query select e.seq, e.hash, e.at from events e order by e.seq desc limit 1;
    end $$;
  `);
};
