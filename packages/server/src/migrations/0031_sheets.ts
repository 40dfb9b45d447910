// breaking: no — workbooks of other formats are shown as sheets by one that is made of them.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    alter table renditions drop constraint renditions_kind_check;
    alter table renditions add constraint renditions_kind_check check (kind in ('pages', 'sheets', 'small'));
  `);
};
