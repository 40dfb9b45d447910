// breaking: no — Open steps are found where most steps are done.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`create index steps_open on steps (round_id) include (id, due_on) where (state = 'open')`);
};
