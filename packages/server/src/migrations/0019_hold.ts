// breaking: no — A document in force that must not be used until further notice.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Reason, way out, who and since when; null where it may be used.
    alter table documents add column hold jsonb;
    create index documents_on_hold on documents (id) where (hold is not null);
  `);
};
