// breaking: no — Steps that run at the same time, and what was done about people who did not answer.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Steps of one stage run at the same time; before this, one after the other.
    alter table steps add column stage int;
    update steps set stage = n;
    alter table steps alter column stage set not null;

    create table escalations (
      assignment_id uuid not null references assignments,
      -- Somebody who is asked again, or somebody else who is asked, is escalated anew.
      asked_at timestamptz not null,
      place int not null,
      at timestamptz not null,
      primary key (assignment_id, asked_at, place)
    );
  `);
};
