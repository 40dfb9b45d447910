// breaking: no — reminders that were sent once, and memberships that came from a rule.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table reminders_sent (
      document_id uuid not null references documents,
      what text not null,
      on_day date not null,
      person_id uuid not null references people,
      at timestamptz not null,
      primary key (document_id, what, on_day, person_id)
    );
    -- A membership of a group that follows from what a person is; it ends when the person is so no more.
    alter table memberships add column by_rule boolean not null default false;
  `);
};
