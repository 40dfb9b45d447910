// breaking: no — trees of folders by which projects are laid out, and which were.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table blueprints (
      id uuid primary key,
      name text not null constraint blueprint_name_unique unique,
      folder_id uuid not null references folders,
      outline text not null,
      lookup text references lookups,
      retired boolean not null default false,
      row_version int not null default 1
    );
    create table projects (
      id uuid primary key,
      blueprint_id uuid not null references blueprints,
      values jsonb not null,
      folder_ids uuid[] not null,
      by_id uuid not null references people,
      at timestamptz not null
    );
    create index projects_by_blueprint on projects (blueprint_id, at desc);
    alter table rule_editions drop constraint edition_kind_known;
    alter table rule_editions add constraint edition_kind_known check (kind in ('type', 'list', 'lookup', 'organisation', 'blueprint'));
  `);
};
