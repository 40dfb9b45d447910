// breaking: no — what arrived in the watched folder and waits to be filed.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table incoming_files (
      id uuid primary key,
      -- Where it lay in the watched folder, and when it was written there: the same file is never taken twice.
      path text not null,
      written_at timestamptz not null,
      sha256 text references contents,
      size bigint not null,
      arrived_at timestamptz not null,
      state text not null constraint incoming_file_state_known check (state in ('waiting', 'filed', 'set aside', 'refused')),
      why text,
      document_id uuid references documents,
      ended_by uuid references people,
      ended_at timestamptz,
      constraint incoming_file_once unique (path, written_at),
      constraint incoming_file_has_content check (sha256 is not null or state in ('refused', 'set aside')),
      constraint incoming_file_filed_where check ((state = 'filed') = (document_id is not null))
    );
    create index incoming_files_waiting on incoming_files (arrived_at) where state in ('waiting', 'refused');
  `);
};
