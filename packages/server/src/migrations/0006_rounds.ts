// breaking: no — Review and approval in rounds, records that are signed, and signatures.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table signing_records (
      id uuid primary key,
      revision_id uuid not null references revisions,
      digest text not null,
      text text not null,
      frozen_at timestamptz not null,
      kind text not null default 'frozen',
      constraint record_kind_known check (kind in ('frozen', 'imported'))
    );
    create index signing_records_by_revision on signing_records (revision_id);

    create table rounds (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      n int not null,
      definition jsonb not null,
      state text not null,
      step int not null default 0,
      held_up jsonb,
      message text not null default '',
      started_by uuid not null references people,
      started_at timestamptz not null,
      ended_at timestamptz,
      record_id uuid references signing_records,
      constraint round_number_unique unique (revision_id, n),
      constraint round_state_known check (state in ('running', 'done', 'rejected', 'recalled')),
      constraint round_end check ((state = 'running') = (ended_at is null))
    );
    create unique index one_open_round on rounds (revision_id) where (state = 'running');
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
      state text not null,
      opened_at timestamptz,
      ended_at timestamptz,
      constraint step_number_unique unique (round_id, n),
      constraint step_state_known check (state in ('waiting', 'open', 'done', 'rejected', 'not needed'))
    );

    create table assignments (
      id uuid primary key,
      step_id uuid not null references steps,
      n int not null,
      person_id uuid not null references people,
      state text not null,
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
      constraint assignment_state_known check (state in ('waiting', 'open', 'answered', 'not needed')),
      constraint decided_when_answered check ((state = 'answered') = (decided_at is not null))
    );
    create index assignments_open on assignments (person_id) where (state = 'open');
    create index assignments_answered on assignments (decided_by) where (state = 'answered');

    create function record_guard() returns trigger language plpgsql
AS $$
    begin
      raise exception 'a signing record changes no more' using errcode = 'KN006', constraint = 'record_immutable';
    end $$;

    create trigger record_guard before delete or update on signing_records for each row execute function record_guard();
  `);
};
