// breaking: no — Forms with their versions, and the records that are made with them.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table forms (
      id uuid primary key,
      code text not null constraint form_code_unique unique,
      purpose text not null check (purpose in ('change request', 'record')),
      active boolean not null,
      -- Of a change request: the types of the documents that it is offered on; empty means all.
      type_ids uuid[] not null default '{}',
      -- Units whose members get its records.
      receiver_ids uuid[] not null default '{}',
      row_version int not null default 1
    );
    -- Never changed: a record is read by the version that it was filled in by.
    create table form_versions (
      form_id uuid not null references forms,
      n int not null,
      name text not null,
      about text not null,
      sections jsonb not null,
      by_id uuid not null references people,
      at timestamptz not null,
      reason text not null,
      primary key (form_id, n)
    );
    create table form_records (
      id uuid primary key,
      form_id uuid not null references forms,
      version int not null,
      document_id uuid references documents,
      by_id uuid not null references people,
      answers jsonb not null,
      saved_at timestamptz not null,
      row_version int not null default 1,
      -- Counted by form and year when it is sent.
      year int,
      n int,
      number text constraint form_record_number unique,
      sent_at timestamptz,
      request_id uuid references change_requests,
      foreign key (form_id, version) references form_versions (form_id, n),
      constraint form_record_sent check ((sent_at is null) = (number is null)),
      constraint form_record_of_year unique (form_id, year, n)
    );
    create index form_records_by on form_records (by_id, saved_at desc);
    create index form_records_of on form_records (form_id, sent_at desc) where (sent_at is not null);
    create unique index form_record_of_request on form_records (request_id) where (request_id is not null);
    create table form_record_files (
      id uuid primary key,
      record_id uuid not null references form_records on delete cascade,
      n int not null,
      name text not null,
      sha256 text not null references contents
    );
    create index form_record_files_of on form_record_files (record_id, n);
    create index form_record_files_content on form_record_files (sha256);
  `);
};
