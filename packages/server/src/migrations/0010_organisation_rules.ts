// breaking: no — what is laid down for types, lists that they share, editions of rules, and scopes that were left behind.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    alter table types
      add column family text not null default '',
      add column group_name text not null default '',
      add column example text not null default '',
      add column take_over boolean not null default false,
      add column register_unit_ids uuid[] not null default '{}',
      add column row_version int not null default 1;

    alter table organisation add column row_version int not null default 1;

    -- What a person registered recent (documents/store.ts listRecent).
    create index documents_by_registrar on documents (registered_by, registered_at desc);

    -- Whether a file of this name is there already (documents/matching.ts).
    create index version_files_by_name on version_files (name);

    -- Choices that types share. The options of a list stand in the fields of the types too (rules/lists.ts writes both).
    create table choice_lists (
      key text primary key,
      name text not null,
      depends_on text references choice_lists,
      options jsonb not null default '[]',
      row_version int not null default 1,
      constraint list_not_on_itself check (depends_on <> key)
    );
    -- Lists whose entries have metadata of their own: choosing one fills others.
    create table lookups (
      key text primary key,
      name text not null,
      metadata jsonb not null default '[]',
      row_version int not null default 1
    );
    create table lookup_entries (
      list_key text not null references lookups,
      code text not null,
      name text not null,
      metadata jsonb not null default '{}',
      retired boolean not null default false,
      sort int not null default 0,
      primary key (list_key, code)
    );

    create table rule_editions (
      id uuid primary key,
      kind text not null constraint edition_kind_known check (kind in ('type', 'list', 'lookup', 'organisation')),
      subject_id text not null,
      n int not null,
      value jsonb not null,
      reason text not null,
      by_id uuid references people,
      at timestamptz not null,
      constraint edition_once unique (kind, subject_id, n)
    );
    create function edition_guard() returns trigger language plpgsql as $$
    begin
      raise exception 'an edition of a rule changes no more' using errcode = 'KN010', constraint = 'edition_immutable';
    end $$;
    create trigger edition_guard before update or delete on rule_editions for each row execute function edition_guard();

    -- A change that holds from a day on; at most one waits per type.
    create table planned_rules (
      id uuid primary key,
      type_id uuid not null references types,
      value jsonb not null,
      reason text not null,
      from_day date not null,
      by_id uuid not null references people,
      at timestamptz not null,
      blocked_reason text,
      ended_at timestamptz,
      ended_how text constraint plan_end_known check (ended_how in ('applied', 'dropped')),
      constraint plan_end_says_how check ((ended_at is null) = (ended_how is null))
    );
    create unique index one_planned_rule on planned_rules (type_id) where ended_at is null;

    -- Scopes in which no rule counts any more as it did: their numbers stay readable and are never given again.
    create table retired_scopes (
      scope text not null,
      rule text not null,
      codes jsonb not null,
      last bigint not null,
      at timestamptz not null,
      primary key (scope, rule)
    );
  `);
};
