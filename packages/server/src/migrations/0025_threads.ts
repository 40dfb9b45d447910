// breaking: no — comments become threads with places in text and on pages, marks that are drawn, and stamps of the organisation.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    alter table comments
      add column parent_id uuid references comments,
      add column assignee_id uuid references people,
      add column file_sort int not null default 0,
      -- What stood around the quoted text, by which they are found again in a later version.
      add column around jsonb,
      add column mark jsonb,
      -- Taken back by who wrote it, before anybody answered.
      add column withdrawn_at timestamptz,
      -- The name of the annotation that it was read from, so that it is read in once.
      add column read_from text;
    create index comments_by_parent on comments (parent_id) where parent_id is not null;
    create unique index comments_read_once on comments (document_id, read_from) where read_from is not null;
    create index comments_assigned on comments (assignee_id) where assignee_id is not null and resolved_at is null;

    create table stamps (
      id uuid primary key,
      text text not null,
      colour text not null,
      retired boolean not null default false,
      row_version int not null default 1
    );
  `);
};
