// breaking: no — A person keeps documents at hand and arranges the Desk.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Documents that a person keeps at hand, in an order of their own.
    create table favourites (
      person_id uuid not null references people,
      document_id uuid not null references documents,
      sort integer not null,
      primary key (person_id, document_id)
    );
    create index favourites_document on favourites (document_id);

    -- The cards of the Desk as a person wants them; cards that are not named follow in the order of the product.
    create table desk_arrangements (
      person_id uuid primary key references people,
      cards text[] not null,
      hidden text[] not null
    );
  `);
};
