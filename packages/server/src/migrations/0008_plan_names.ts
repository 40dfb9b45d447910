// breaking: no — types and units count for the version of what servers keep in memory, for lists name them from there.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create trigger raise_access_version after insert or update or delete on types for each statement execute function raise_access_version();
    create trigger raise_access_version after insert or update or delete on units for each statement execute function raise_access_version();
  `);
};
