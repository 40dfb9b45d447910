// breaking: no — Required reading, and the signatures of all kinds.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table reading_requirements (
      id uuid primary key,
      document_id uuid not null references documents,
      audience jsonb not null,
      kind text not null,
      instructions text not null default '',
      working_days int not null,
      new_joiner_days int not null,
      per_change jsonb not null default '{}',
      before_in_force boolean not null default false,
      from_type boolean not null default false,
      from_day date not null,
      to_day date,
      row_version int not null default 1
    );
    create unique index one_open_requirement on reading_requirements (document_id) where (to_day is null);

    create table reading_assignments (
      id uuid primary key,
      requirement_id uuid not null references reading_requirements,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      person_id uuid not null references people,
      state text not null,
      policy text not null,
      new_joiner boolean not null default false,
      due_on date not null,
      opened_at timestamptz not null,
      closed_at timestamptz,
      remark text not null default '',
      reminded_at timestamptz,
      constraint reading_once unique (revision_id, person_id, requirement_id),
      constraint reading_state_known check (state in ('open', 'signed', 'carried over', 'not needed', 'overtaken', 'void'))
    );
    create index readings_open on reading_assignments (person_id, due_on) where (state = 'open');
    create index readings_by_document on reading_assignments (document_id, revision_id);
    create index readings_of_person on reading_assignments (person_id, document_id) where (state = ANY (ARRAY['open', 'signed', 'carried over']));

    create table signatures (
      id uuid primary key,
      record_id uuid not null references signing_records,
      revision_id uuid not null references revisions,
      person_id uuid not null references people,
      printed_name text not null,
      meaning text not null,
      at timestamptz not null,
      zone text not null,
      method text not null,
      for_person_id uuid references people,
      digest text not null,
      assignment_id uuid references assignments,
      reading_id uuid references reading_assignments,
      void_at timestamptz,
      void_reason text,
      -- What a signature says of itself (21 CFR 11.70): its seal covers the row, and the event of its command bears the same seal.
      seal text,
      constraint signature_of_one_command check (not ((assignment_id is not null) and (reading_id is not null))),
      constraint void_says_why check ((void_at is null) = (void_reason is null))
    );
    create index signatures_by_revision on signatures (revision_id);
    create unique index one_signature_per_assignment on signatures (assignment_id) where (assignment_id is not null);
    create unique index one_signature_per_reading on signatures (reading_id) where ((reading_id is not null) and (void_at is null));

    -- What a signature says never changes; it can only become void, once.
    create function signature_guard() returns trigger language plpgsql
AS $$
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

    create trigger signature_guard before delete or update on signatures for each row execute function signature_guard();
  `);
};
