// breaking: no — taking over legacy documents by a manifest, line by line, and what came in so and is not yet checked.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table imports (
      id uuid primary key,
      name text not null,
      by_id uuid not null references people,
      at timestamptz not null,
      headings jsonb not null,
      mapping jsonb not null,
      state text not null constraint import_state_known check (state in ('prepared', 'checked', 'running', 'stopped', 'done')),
      begins jsonb not null default '[]',
      reason text,
      row_version int not null default 1
    );
    create index imports_by_person on imports (by_id, at desc);
    create table import_lines (
      import_id uuid not null references imports,
      line int not null,
      cells jsonb not null,
      state text not null default 'waiting'
        constraint import_line_state_known check (state in ('waiting', 'ready', 'refused', 'done')),
      reasons jsonb not null default '[]',
      warnings jsonb not null default '[]',
      document_id uuid references documents,
      primary key (import_id, line)
    );
    create index import_lines_by_state on import_lines (import_id, state, line);
    create table import_files (
      import_id uuid not null references imports,
      folded text not null,
      name text not null,
      sha256 text not null references contents,
      size bigint not null,
      primary key (import_id, folded)
    );
    -- What was taken over is looked at by somebody once; who signed is kept as imported.
    alter table documents add column unverified_since timestamptz;
    create index documents_unverified on documents (unverified_since, number) where unverified_since is not null;
    alter table revisions add column imported jsonb;
  `);
};
