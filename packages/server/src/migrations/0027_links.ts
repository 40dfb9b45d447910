// breaking: no — links that people set: from document to document, to the web, and to items outside.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table links (
      id uuid primary key,
      document_id uuid not null references documents,
      kind text not null,
      to_document_id uuid references documents,
      -- Pinned to a revision; without one the link follows what is in force.
      to_revision_id uuid references revisions,
      address text,
      item jsonb,
      note text not null default '',
      by_id uuid not null references people,
      at timestamptz not null,
      ended_at timestamptz,
      check (num_nonnulls(to_document_id, address, item) = 1),
      check (to_revision_id is null or to_document_id is not null)
    );
    create index links_from on links (document_id) where ended_at is null;
    create index links_to on links (to_document_id) where ended_at is null;
    create unique index links_once on links (document_id, kind, to_document_id, coalesce(to_revision_id, document_id))
      where ended_at is null and to_document_id is not null;
  `);
};
