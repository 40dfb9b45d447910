// breaking: yes — heads of the trail are kept by size and with their peaks; signatures bear a seal of their own row.
import { hash, randomUUID } from 'node:crypto';
import { recordDigest, signingRecordText } from '@kanonos/core';
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Background work on one thing that failed: tried again with growing pauses, then set aside until somebody looks at it.
    create table failed_work (
      kind text not null,
      subject text not null,
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

    -- Contents whose bytes are no longer those that were stored: who reads them is refused until they are put right.
    alter table contents add column checked_mtime_ms bigint;
    create index contents_to_check on contents (checked_on nulls first, sha256);
    create table content_incidents (
      id uuid primary key,
      sha256 text not null references contents,
      what text not null constraint incident_known check (what in ('altered', 'missing')),
      found_by text not null,
      found_at timestamptz not null,
      ended_at timestamptz,
      notified_at timestamptz
    );
    create unique index one_open_incident on content_incidents (sha256) where ended_at is null;

    -- A mail that was not taken is tried again for days, with growing pauses.
    alter table mails add column next_try_at timestamptz;
    -- The secret of a link, hidden, until the mail is sent; it never stands in the body that is kept.
    alter table mails add column secret text;
    -- Every address at which a person is or was known, to be imported there of a reset.
    create table person_addresses (
      person_id uuid not null references people,
      address text not null,
      primary key (person_id, address)
    );
    insert into person_addresses select id, email from people where email <> '';
    update mails set text = '', html = '' where kind = 'password link';
    create index mails_failed on mails (next_try_at) where state = 'failed';

    -- Two locks over one subject never hold together unless both are shared: an exclusive one covers the whole range, a shared
    -- one a single place of it.
    delete from drive_locks;
    alter table drive_locks add constraint lock_not_held exclude using gist (
      subject with =,
      int8range(
        case when shared then hashtextextended(token, 0) end,
        case when shared then hashtextextended(token, 0) end, '[]') with &&
    );

    -- Heads of the trail: several a day, each with the peaks of its tree, so that nothing of the tree is ever updated.
    alter table heads add column peaks text[];
    update heads h set peaks = t.peaks from tree_state t where t.size = h.size;
    alter table heads drop constraint heads_pkey;
    delete from heads a using heads b where a.size = b.size and a.day < b.day;
    alter table heads add primary key (size);
    drop table tree_state;

    -- What a signature says of itself (21 CFR 11.70): its seal covers the row, and the event of its command bears the same seal.
    alter table signatures add column seal text;
    alter table signing_records add column kind text not null default 'frozen'
      constraint record_kind_known check (kind in ('frozen', 'imported'));
    alter table events add column signature_id uuid;
    alter table events disable trigger event_guard;
    update events set signature_id = (text::jsonb->'payload'->>'signature')::uuid
      where kind in ('decision.given', 'reading.signed', 'revision.reinstated') and jsonb_exists(text::jsonb->'payload', 'signature');
    -- A release that was signed itself named no signature then: it is the first such event of its revision from that instant on.
    update events e set signature_id = s.id
      from signatures s
      where s.assignment_id is null and s.reading_id is null and not exists (select 1 from events o where o.signature_id = s.id)
        and e.seq = (select min(f.seq) from events f where f.revision_id = s.revision_id and f.kind in ('revision.released', 'revision.scheduled')
          and f.at >= s.at and f.signature_id is null);
    alter table events enable trigger event_guard;
    create index events_by_signature on events (signature_id) where signature_id is not null;

    create or replace function signature_guard() returns trigger language plpgsql as $$
    begin
      if tg_op = 'DELETE' or old.void_at is not null or
         (new.record_id, new.revision_id, new.person_id, new.printed_name, new.meaning, new.at, new.digest, new.zone, new.method,
          new.for_person_id, new.assignment_id, new.reading_id, new.seal)
         is distinct from (old.record_id, old.revision_id, old.person_id, old.printed_name, old.meaning, old.at, old.digest, old.zone,
          old.method, old.for_person_id, old.assignment_id, old.reading_id, old.seal) then
        raise exception 'a signature changes no more' using errcode = 'KN005', constraint = 'signature_immutable';
      end if;
      return new;
    end $$;

    -- Reminders that were sent already are left out before the oldest are taken.
    create index if not exists reminders_sent_of on reminders_sent (document_id, person_id);
  `);
  await recordImported(knex);
};

type Imported = {
  document: string;
  number: string;
  revision: string;
  label: string;
  changeKind: string;
  title: string;
  reason: string;
  summary: string;
  metadata: Record<string, unknown>;
  files: { role: string; name: string; sha256: string }[];
};

/** Revisions that were imported get the signing record that they lacked, so that readings on them can be signed. */
const recordImported = async (knex: Knex): Promise<void> => {
  const { rows } = (await knex.raw(`
    select d.id as document, d.number, r.id as revision, r.label, r.change_kind as "changeKind", r.title, r.reason, r.summary, r.metadata,
      (select coalesce(json_agg(json_build_object('role', f.role, 'name', f.name, 'sha256', f.sha256)), '[]') from version_files f where f.version_id = r.latest_version_id) as files
    from revisions r join documents d on d.id = r.document_id
    where r.imported is not null and r.state in ('in force', 'superseded', 'withdrawn')
      and not exists (select 1 from signing_records s where s.revision_id = r.id)`)) as { rows: Imported[] };
  for (const { title, reason, summary, metadata, ...rest } of rows) {
    const text = signingRecordText({ ...rest, metadata: { ...metadata, title, reason, summary } });
    await knex.raw(
      `insert into signing_records (id, revision_id, digest, text, frozen_at, kind) values (?, ?, ?, ?, now(), 'imported')`,
      [randomUUID(), rest.revision, recordDigest(text, (data) => hash('sha256', data, 'buffer')), text],
    );
  }
};
