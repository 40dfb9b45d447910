// breaking: no — An administrator may see the application as another person sees it.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- As whom the person of the session sees the application, read only.
    alter table sessions add column sees_as_id uuid references people;
  `);
};
