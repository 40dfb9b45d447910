// breaking: no — parents, places, sites and own review dates of documents; what is said of one of several originals.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    alter table documents
      add column parent_id uuid references documents,
      add column location text not null default '',
      add column sites text[] not null default '{}',
      add column review_months int,
      add constraint confidentiality_known check (confidentiality in ('public', 'internal', 'confidential', 'restricted')),
      add constraint own_review_months check (review_months between 0 and 240),
      add constraint not_its_own_parent check (parent_id <> id);
    create index documents_by_parent on documents (parent_id) where parent_id is not null;
    -- What may not be shared outside is looked for when somebody from outside opens a list (access/store.ts).
    create index documents_confidential on documents (confidentiality) where confidentiality in ('confidential', 'restricted');

    alter table version_files
      add column description text not null default '',
      add column language text not null default '',
      add column sheet int constraint sheet_counts_from_one check (sheet >= 1);

    -- What each level of confidentiality forbids; rights are computed from it, so a change counts like one of the plan.
    alter table organisation add column confidentiality jsonb not null
      default '{"public": [], "internal": [], "confidential": ["share outside"], "restricted": ["share outside", "download", "print"]}';
    create trigger raise_access_version after update of confidentiality on organisation for each statement execute function raise_access_version();
  `);
};
