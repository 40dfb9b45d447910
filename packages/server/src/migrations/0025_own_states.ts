// breaking: no — States of the organisation's own within draft and in review.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Each with its name, the state within which it may be set, and the units that may set it.
    alter table organisation add column own_states jsonb not null default '[]';
    -- Ends with the state within which it was set.
    alter table revisions add column own_state text,
      add constraint own_state_of_work check (own_state is null or state in ('draft', 'in review'));
    create index revisions_own_state on revisions (lower(own_state)) where (own_state is not null);
  `);
};
