// breaking: no — a document shown in a second folder, and sets of documents that are downloaded together.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- A shortcut gives no right and is never dead: it goes with its folder, and the document is the one that it is.
    create table shortcuts (
      document_id uuid not null references documents,
      folder_id uuid not null references folders on delete cascade,
      by_id uuid not null references people,
      at timestamptz not null,
      primary key (folder_id, document_id)
    );
    create index shortcuts_by_document on shortcuts (document_id);

    create table download_packages (
      id uuid primary key,
      by_id uuid not null references people,
      at timestamptz not null,
      document_ids uuid[] not null
    );
  `);
};
