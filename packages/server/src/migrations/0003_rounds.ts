// breaking: no — runs, decisions, signatures, required reading.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table signing_records (
      id uuid primary key,
      revision_id uuid not null references revisions,
      digest text not null,
      text text not null,
      frozen_at timestamptz not null
    );
    create index signing_records_by_revision on signing_records (revision_id);

    create table rounds (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      n int not null,
      definition jsonb not null,
      state text not null constraint round_state_known check (state in ('running', 'done', 'rejected', 'recalled')),
      step int not null default 0,
      held_up jsonb,
      message text not null default '',
      started_by uuid not null references people,
      started_at timestamptz not null,
      ended_at timestamptz,
      record_id uuid references signing_records,
      constraint round_number_unique unique (revision_id, n),
      constraint round_end check ((state = 'running') = (ended_at is null))
    );
    create unique index one_open_round on rounds (revision_id) where state = 'running';
    create index rounds_by_document on rounds (document_id);
    create index rounds_by_submitter on rounds (started_by, started_at desc);

    create table steps (
      id uuid primary key,
      round_id uuid not null references rounds,
      n int not null,
      name text not null,
      kind text not null,
      meaning text,
      rule jsonb not null,
      working_days int not null,
      editing boolean not null default false,
      on_reject text not null default 'draft',
      due_on date,
      state text not null constraint step_state_known check (state in ('waiting', 'open', 'done', 'rejected', 'not needed')),
      opened_at timestamptz,
      ended_at timestamptz,
      constraint step_number_unique unique (round_id, n)
    );

    create table assignments (
      id uuid primary key,
      step_id uuid not null references steps,
      n int not null,
      person_id uuid not null references people,
      state text not null constraint assignment_state_known check (state in ('waiting', 'open', 'answered', 'not needed')),
      opened_at timestamptz,
      decision text,
      comment text not null default '',
      decided_at timestamptz,
      decided_by uuid references people,
      on_version int,
      reminded_at timestamptz,
      row_version int not null default 1,
      -- A person counts once in a step.
      constraint person_once_in_step unique (step_id, person_id),
      constraint decided_when_answered check ((state = 'answered') = (decided_at is not null))
    );
    create index assignments_open on assignments (person_id) where state = 'open';

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
    create unique index one_open_requirement on reading_requirements (document_id) where to_day is null;

    create table reading_assignments (
      id uuid primary key,
      requirement_id uuid not null references reading_requirements,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      person_id uuid not null references people,
      state text not null constraint reading_state_known check (state in ('open', 'signed', 'carried over', 'not needed', 'overtaken', 'void')),
      policy text not null,
      new_joiner boolean not null default false,
      due_on date not null,
      opened_at timestamptz not null,
      closed_at timestamptz,
      remark text not null default '',
      reminded_at timestamptz,
      constraint reading_once unique (revision_id, person_id, requirement_id)
    );
    create index readings_open on reading_assignments (person_id, due_on) where state = 'open';
    create index readings_by_document on reading_assignments (document_id, revision_id);

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
      constraint signature_of_one_command check (not (assignment_id is not null and reading_id is not null)),
      constraint void_says_why check ((void_at is null) = (void_reason is null))
    );
    create index signatures_by_revision on signatures (revision_id);
    create unique index one_signature_per_assignment on signatures (assignment_id) where assignment_id is not null;
    create unique index one_signature_per_reading on signatures (reading_id) where reading_id is not null and void_at is null;
    -- What a signature says never changes; it can only become void, once.
    create function signature_guard() returns trigger language plpgsql as $$
    begin
      if tg_op = 'DELETE' or old.void_at is not null or
         (new.record_id, new.person_id, new.printed_name, new.meaning, new.at, new.digest, new.zone, new.method)
         is distinct from (old.record_id, old.person_id, old.printed_name, old.meaning, old.at, old.digest, old.zone, old.method) then
        raise exception 'a signature changes no more' using errcode = 'KN005', constraint = 'signature_immutable';
      end if;
      return new;
    end $$;
    create trigger signature_guard before update or delete on signatures for each row execute function signature_guard();
    create function record_guard() returns trigger language plpgsql as $$
    begin
      raise exception 'a signing record changes no more' using errcode = 'KN006', constraint = 'record_immutable';
    end $$;
    create trigger record_guard before update or delete on signing_records for each row execute function record_guard();
  `);
};
