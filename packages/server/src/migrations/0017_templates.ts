// breaking: no — native files from which documents of a type are begun, with their editions.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table templates (
      id uuid primary key,
      type_id uuid not null references types,
      name text not null,
      language text not null default '',
      retired boolean not null default false,
      row_version int not null default 1,
      constraint template_name_unique unique (type_id, name, language)
    );
    create table template_editions (
      id uuid primary key,
      template_id uuid not null references templates,
      n int not null,
      file_name text not null,
      sha256 text not null references contents,
      reason text not null,
      by_id uuid not null references people,
      at timestamptz not null,
      constraint template_edition_once unique (template_id, n)
    );
    create function template_edition_guard() returns trigger language plpgsql as $$
    begin
      raise exception 'an edition of a template changes no more' using errcode = 'KN011', constraint = 'edition_immutable';
    end $$;
    create trigger template_edition_guard before update or delete on template_editions
      for each row execute function template_edition_guard();
  `);
};
