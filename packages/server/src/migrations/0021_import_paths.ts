// breaking: no — files of an import are kept once, by their path in the folder or zip that they came from.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Until now a file of a zip stood twice, by its path and by its last part; the longer name says all.
    alter table import_files rename column name to path;
    delete from import_files f using import_files longer
      where longer.import_id = f.import_id and longer.sha256 = f.sha256 and longer.folded like '%/' || f.folded;
    update import_files set path = folded where folded like '%/%';
  `);
};
