// breaking: no — A blueprint keeps files from which its first documents begin.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table blueprint_files (
      blueprint_id uuid not null references blueprints,
      name text not null,
      sha256 text not null references contents,
      primary key (blueprint_id, name)
    );
    create index blueprint_files_by_content on blueprint_files (sha256);
  `);
};
