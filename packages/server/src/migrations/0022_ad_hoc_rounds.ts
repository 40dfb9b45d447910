// breaking: no — Rounds outside the route of a type, what is attached to them, and meanings of signatures outside rounds.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Kept by the definition alone, and readable in SQL.
    alter table rounds add column leads_to text not null generated always as (coalesce(definition->>'leadsTo', 'release')) stored;
    -- The last day of the whole round, where one was set.
    alter table rounds add column last_day date;
    -- The version that a round began with.
    alter table rounds add column on_version int;
    update rounds u set on_version = (select max(v.n) from versions v where v.revision_id = u.revision_id and v.at <= u.started_at);
    drop index one_open_round;
    create unique index one_open_round on rounds (revision_id) where (state = 'running' and leads_to = 'release');

    create table round_documents (
      round_id uuid not null references rounds,
      document_id uuid not null references documents,
      n int not null,
      primary key (round_id, document_id)
    );
    create table round_files (
      id uuid primary key,
      round_id uuid not null references rounds,
      n int not null,
      name text not null,
      sha256 text not null references contents,
      constraint round_file_place unique (round_id, n)
    );
    create index round_files_content on round_files (sha256);

    -- What a signature outside a round may mean (21 CFR 11.50).
    alter table organisation add column signature_meanings jsonb not null default '["Signed as author", "Witnessed", "Countersigned", "Checked against the original"]';
  `);
};
