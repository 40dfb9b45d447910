// breaking: no — What readers would have changed, and what became of it.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table change_requests (
      id uuid primary key,
      -- Counted by year: the number is made of both.
      year int not null,
      n int not null,
      number text not null constraint change_requests_number unique,
      document_id uuid not null references documents,
      -- The revision that the reader had before them.
      revision_id uuid not null references revisions,
      place text not null default '',
      what text not null,
      proposal text not null default '',
      file_name text,
      sha256 text references contents,
      by_id uuid not null references people,
      at timestamptz not null,
      state text not null default 'open' check (state in ('open', 'rejected', 'merged', 'noted')),
      answer text not null default '',
      -- The change note that it became a part of.
      note_id uuid references documents,
      merged_into uuid references change_requests,
      answered_by uuid references people,
      answered_at timestamptz,
      constraint change_requests_of_year unique (year, n)
    );
    create index change_requests_of on change_requests (document_id, at);
    create index change_requests_by on change_requests (by_id, at);
    create index change_requests_noted on change_requests (note_id) where (note_id is not null);
    create index change_requests_open on change_requests (at) where (state = 'open');
    create index change_requests_content on change_requests (sha256) where (sha256 is not null);
  `);
};
