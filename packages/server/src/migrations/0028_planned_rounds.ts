// breaking: no — Rounds outside the route that begin on a day.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table planned_rounds (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      by_id uuid not null references people,
      at timestamptz not null,
      starts_on date not null,
      name text not null,
      -- What the round will ask, as it was given.
      asked jsonb not null,
      -- Files that will be attached to it, with their contents.
      files jsonb not null default '[]',
      ended_at timestamptz,
      round_id uuid references rounds,
      -- Why it could not begin on its day, as refusals; or why it was cancelled.
      problems jsonb,
      cancelled text
    );
    create index planned_rounds_of on planned_rounds (document_id) where (ended_at is null);
    create index planned_rounds_due on planned_rounds (starts_on) where (ended_at is null);
  `);
};
