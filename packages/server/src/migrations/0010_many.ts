// breaking: no — Many documents at once: bulk changes, download packages, legacy import.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table bulk_changes (
      id uuid primary key,
      by_id uuid not null references people,
      at timestamptz not null,
      reason text not null,
      change jsonb not null
    );
    create index bulk_changes_by_person on bulk_changes (by_id, at desc);

    create table bulk_items (
      bulk_id uuid references bulk_changes,
      document_id uuid references documents,
      before jsonb not null,
      row_version int not null,
      undone text,
      primary key (bulk_id, document_id),
      constraint undone_known check (undone in ('undone', 'changed again'))
    );
    create index bulk_items_open on bulk_items (bulk_id, document_id) where (undone is null);

    create table download_packages (
      id uuid primary key,
      by_id uuid not null references people,
      at timestamptz not null,
      document_ids uuid[] not null
    );

    create table imports (
      id uuid primary key,
      name text not null,
      by_id uuid not null references people,
      at timestamptz not null,
      headings jsonb not null,
      mapping jsonb not null,
      state text not null,
      begins jsonb not null default '[]',
      reason text,
      row_version int not null default 1,
      constraint import_state_known check (state in ('prepared', 'checked', 'running', 'stopped', 'done'))
    );
    create index imports_by_person on imports (by_id, at desc);

    create table import_lines (
      import_id uuid references imports,
      line int,
      cells jsonb not null,
      state text not null default 'waiting',
      reasons jsonb not null default '[]',
      warnings jsonb not null default '[]',
      document_id uuid references documents,
      primary key (import_id, line),
      constraint import_line_state_known check (state in ('waiting', 'ready', 'refused', 'done'))
    );
    create index import_lines_by_state on import_lines (import_id, state, line);

    create table import_files (
      import_id uuid references imports,
      folded text,
      path text not null,
      sha256 text not null references contents,
      size bigint not null,
      primary key (import_id, folded)
    );
  `);
};
