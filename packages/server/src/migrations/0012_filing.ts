// breaking: no — what folders say of what is filed in them, their own state, and types that are filed by a rule.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    alter table folders
      add column metadata jsonb not null default '{}',
      add column department_id uuid references units,
      add column state text not null default 'open'
        constraint folder_state_known check (state in ('in preparation', 'open', 'closed', 'kept')),
      add column row_version int not null default 1;
    -- The code of an area stands in numbers: it is borne once.
    create unique index area_code_unique on folders (code) where parent_id is null and code is not null;
    alter table types add column filing_rule text;
  `);
};
