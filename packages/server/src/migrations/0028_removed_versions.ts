// breaking: no — versions that were removed: their row and hashes stay, they are listed and handed out no more.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table removed_versions (
      version_id uuid primary key references versions,
      by_id uuid not null references people,
      at timestamptz not null,
      reason text not null,
      freed bigint not null
    );
  `);
};
