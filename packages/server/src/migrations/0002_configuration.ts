// breaking: no — What an administrator sets: lists, types by editions, counters, templates, stamps.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Choices that types share. The fields of the types hold the options of a list too (rules/lists.ts writes both).
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
      list_key text references lookups,
      code text,
      name text not null,
      metadata jsonb not null default '{}',
      retired boolean not null default false,
      sort int not null default 0,
      primary key (list_key, code)
    );

    create table types (
      id uuid primary key,
      code text not null,
      name text not null,
      help text not null default '',
      numbering_rule text,
      external_pattern text,
      naming_rule text not null default '{number}_{revision}_{title}.{ext}',
      scheme jsonb not null,
      fields jsonb not null default '[]',
      route jsonb not null default '{"name": "", "steps": []}',
      reading jsonb,
      readers_needed boolean not null default false,
      review_months int not null default 12,
      release_without_route boolean not null default false,
      retired boolean not null default false,
      sort int not null default 0,
      family text not null default '',
      group_name text not null default '',
      example text not null default '',
      take_over boolean not null default false,
      register_unit_ids uuid[] not null default '{}',
      row_version int not null default 1,
      filing_rule text,
      policy jsonb not null default '{}',
      constraint type_code_unique unique (code),
      constraint type_number_source check ((numbering_rule is null) or (external_pattern is null))
    );

    create table rule_editions (
      id uuid primary key,
      kind text not null,
      subject_id text not null,
      n int not null,
      value jsonb not null,
      reason text not null,
      by_id uuid references people,
      at timestamptz not null,
      constraint edition_once unique (kind, subject_id, n),
      constraint edition_kind_known check (kind in ('type', 'list', 'lookup', 'organisation', 'blueprint'))
    );

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
      ended_how text,
      constraint plan_end_known check (ended_how in ('applied', 'dropped')),
      constraint plan_end_says_how check ((ended_at is null) = (ended_how is null))
    );
    create unique index one_planned_rule on planned_rules (type_id) where (ended_at is null);

    create table counters (
      scope text primary key,
      last bigint not null,
      started_at bigint not null default 0,
      constraint counter_not_negative check (last >= 0)
    );

    -- Scopes in which no rule counts any more as it did: their numbers stay readable and are never given again.
    create table retired_scopes (
      scope text,
      rule text,
      codes jsonb not null,
      last bigint not null,
      at timestamptz not null,
      primary key (scope, rule)
    );

    create table stamps (
      id uuid primary key,
      text text not null,
      colour text not null,
      retired boolean not null default false,
      row_version int not null default 1
    );

    create trigger raise_access_version after insert or delete or update on types for each statement execute function raise_access_version();

    create function edition_guard() returns trigger language plpgsql
AS $$
    begin
      raise exception 'an edition of a rule changes no more' using errcode = 'KN010', constraint = 'edition_immutable';
    end $$;

    create trigger edition_guard before delete or update on rule_editions for each row execute function edition_guard();
  `);
};
