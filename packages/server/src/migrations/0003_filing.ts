// breaking: no — The filing plan with its rights, and blueprints of projects.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table folders (
      id uuid primary key,
      parent_id uuid references folders,
      name text not null,
      code text,
      area_id uuid not null,
      path uuid[] not null,
      sort int not null default 0,
      metadata jsonb not null default '{}',
      department_id uuid references units,
      state text not null default 'open',
      row_version int not null default 1,
      constraint folder_name_unique unique nulls not distinct (parent_id, name),
      constraint folder_in_its_path check (path[cardinality(path)] = id),
      constraint folder_state_known check (state in ('in preparation', 'open', 'closed', 'kept'))
    );
    create index folders_by_path on folders using gin (path);
    -- Numbers contain the code of an area: it is unique.
    create unique index area_code_unique on folders (code) where ((parent_id is null) and (code is not null));

    create table grants (
      id uuid primary key,
      folder_id uuid references folders,
      document_id uuid,
      subject_kind text not null,
      subject_id uuid,
      rights text[] not null,
      withheld boolean not null default false,
      constraint grant_once unique nulls not distinct (folder_id, document_id, subject_kind, subject_id),
      constraint grant_subject_known check (subject_kind in ('person', 'unit', 'all')),
      constraint grant_on_one_place check ((folder_id is null) <> (document_id is null)),
      constraint grant_subject_given check ((subject_kind = 'all') = (subject_id is null)),
      constraint withheld_from_person check ((not withheld) or (subject_kind = 'person'))
    );
    create index grants_by_document on grants (document_id) where (document_id is not null);
    create index grants_by_folder on grants (folder_id) where (folder_id is not null);

    create table access_version (
      id int primary key default 1,
      n bigint not null,
      constraint access_version_id_check check (id = 1)
    );
    insert into access_version (n) values ('1');

    create table blueprints (
      id uuid primary key,
      name text not null,
      folder_id uuid not null references folders,
      outline text not null,
      lookup text references lookups,
      retired boolean not null default false,
      row_version int not null default 1,
      constraint blueprint_name_unique unique (name)
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

    create trigger raise_access_version after insert or delete or update on folders for each statement execute function raise_access_version();

    create trigger raise_access_version after insert or delete or update on grants for each statement execute function raise_access_version();
  `);
};
