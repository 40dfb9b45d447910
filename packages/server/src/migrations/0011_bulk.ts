// breaking: no — changes of many documents at once, with what each was before, so that they can be undone; why a document was removed.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    alter table documents add column removed_why text, add column removed_by uuid references people;
    create index documents_removed on documents (removed_at desc) where removed_at is not null;

    create table bulk_changes (
      id uuid primary key,
      by_id uuid not null references people,
      at timestamptz not null,
      reason text not null,
      change jsonb not null
    );
    create index bulk_changes_by_person on bulk_changes (by_id, at desc);
    create table bulk_items (
      bulk_id uuid not null references bulk_changes,
      document_id uuid not null references documents,
      before jsonb not null,
      row_version int not null,
      undone text constraint undone_known check (undone in ('undone', 'changed again')),
      primary key (bulk_id, document_id)
    );
    create index bulk_items_open on bulk_items (bulk_id, document_id) where undone is null;
  `);
};
