// breaking: no — Rules that start rounds, and what they started.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table round_rules (
      id uuid primary key,
      name text not null,
      type_id uuid not null references types,
      -- Only documents of this folder and of those below it.
      folder_id uuid references folders,
      occasion jsonb not null,
      condition text,
      -- A route of the type that leads to nothing, by its name.
      route text not null,
      -- In whose name the rounds are: whoever can change them, and may read what they are about.
      responsible_id uuid not null references people,
      active boolean not null,
      row_version int not null default 1,
      -- What the rule has looked at: events of the audit trail, and days.
      checked_seq bigint not null,
      checked_to date not null,
      removed_at timestamptz
    );
    create unique index round_rule_name on round_rules (lower(name)) where (removed_at is null);

    -- At most one for each occasion of a document: a rule never starts a round twice.
    create table round_rule_starts (
      rule_id uuid not null references round_rules,
      document_id uuid not null references documents,
      occasion text not null,
      at timestamptz not null,
      round_id uuid references rounds,
      -- Why none was started, as refusals.
      problems jsonb,
      primary key (rule_id, document_id, occasion),
      constraint round_rule_outcome check ((round_id is null) = (problems is not null))
    );
    create index round_rule_starts_newest on round_rule_starts (rule_id, at desc);
    create index round_rule_starts_round on round_rule_starts (round_id) where (round_id is not null);
  `);
};
