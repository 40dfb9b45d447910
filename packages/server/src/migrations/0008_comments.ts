// breaking: no — Comments as threads with places in text and on pages.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table comments (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      version int not null,
      person_id uuid not null references people,
      at timestamptz not null,
      kind text not null,
      text text not null,
      quote text,
      resolved_at timestamptz,
      resolved_by uuid references people,
      resolution text not null default '',
      parent_id uuid references comments,
      assignee_id uuid references people,
      file_sort int not null default 0,
      -- What stood around the quoted text, by which they are found again in a later version.
      around jsonb,
      mark jsonb,
      -- Taken back by who wrote it, before anybody answered.
      withdrawn_at timestamptz,
      -- The name of the annotation that it was read from, so that it is read in once.
      read_from text,
      constraint comment_kind_known check (kind in ('comment', 'blocking', 'remark'))
    );
    create index comments_by_document on comments (document_id, at);
    create index comments_by_parent on comments (parent_id) where (parent_id is not null);
    create unique index comments_read_once on comments (document_id, read_from) where (read_from is not null);
    create index comments_assigned on comments (assignee_id) where ((assignee_id is not null) and (resolved_at is null));
  `);
};
