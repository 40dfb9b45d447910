// breaking: no — The organisation, its units and people: memberships with dates, absences, sessions, links to set a password.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create extension if not exists btree_gist;
    create extension if not exists pg_trgm;

    create table organisation (
      id int primary key default 1,
      name text not null,
      code text not null,
      zone text not null,
      week int[] not null default '{1,2,3,4,5}'::integer[],
      demo boolean not null default false,
      demo_password text,
      setup text not null default 'empty',
      signing_idle_minutes int not null default 15,
      upload_limit bigint not null default 536870912,
      fallback_approver uuid,
      row_version int not null default 1,
      -- What each level of confidentiality forbids; rights are computed from it, so a change counts like one of the plan.
      confidentiality jsonb not null default '{"public": [], "internal": [], "restricted": ["share outside", "download", "print"], "confidential": ["share outside"]}',
      follows_naming_rule boolean not null default false,
      logo text,
      colour text not null default '',
      state_words jsonb not null default '{}',
      -- Groups whose members are found by what people are: {unit, department, site, role}.
      group_rules jsonb not null default '[]',
      constraint organisation_is_one check (id = 1),
      constraint organisation_setup_known check (setup in ('empty', 'loading', 'done')),
      constraint colour_form check ((colour = '') or (colour ~ '^#[0-9a-f]{6}$'))
    );

    create table holidays (
      day date primary key,
      name text not null
    );

    create table units (
      id uuid primary key,
      kind text not null,
      code text not null,
      name text not null,
      constraint unit_code_unique unique (kind, code),
      constraint unit_kind_known check (kind in ('department', 'role', 'group', 'site'))
    );

    create table people (
      id uuid primary key,
      sign_in_name text not null,
      name text not null,
      email text not null,
      password_hash text,
      state text not null default 'invited',
      organisation_rights text[] not null default '{}',
      mail_mode text not null default 'at once',
      outside boolean not null default false,
      part text not null default '',
      from_day date not null,
      to_day date,
      signing_wrong int not null default 0,
      signing_locked_until timestamptz,
      row_version int not null default 1,
      constraint person_state_known check (state in ('active', 'invited', 'reset', 'deactivated')),
      constraint mail_mode_known check (mail_mode in ('at once', 'daily', 'desk only'))
    );
    -- A sign-in name is never given twice, also not after deactivation; people are never deleted.
    create unique index sign_in_name_unique on people (lower(sign_in_name));

    create table memberships (
      id uuid primary key,
      person_id uuid not null references people,
      kind text not null,
      ref_id uuid not null,
      from_day date not null,
      to_day date,
      -- A membership of a group that follows from what a person is; it ends when the person is so no more.
      by_rule boolean not null default false,
      constraint membership_kind_known check (kind in ('department', 'role', 'group', 'site', 'supervisor')),
      constraint membership_days check ((to_day is null) or (to_day >= from_day)),
      -- On any day a person has one department, one supervisor, one site; roles and groups may be many, each once.
      constraint membership_overlaps exclude using gist (person_id with =, kind with =, daterange(from_day, to_day, '[]') with &&) where ((kind in ('department', 'supervisor', 'site'))),
      constraint membership_twice exclude using gist (person_id with =, kind with =, ref_id with =, daterange(from_day, to_day, '[]') with &&)
    );
    create index memberships_by_ref on memberships (ref_id, kind);

    create table absences (
      id uuid primary key,
      person_id uuid not null references people,
      from_day date not null,
      to_day date not null,
      deputy_id uuid references people,
      constraint absence_days check (to_day >= from_day),
      constraint deputy_other check ((deputy_id is null) or (deputy_id <> person_id))
    );
    create index absences_by_deputy on absences (deputy_id, to_day);
    create index absences_by_person on absences (person_id, to_day);

    create table sessions (
      token_hash text primary key,
      person_id uuid not null references people,
      created_at timestamptz not null,
      last_seen_at timestamptz not null,
      last_signed_at timestamptz,
      expires_at timestamptz not null
    );
    create index sessions_by_person on sessions (person_id);

    create table password_links (
      token_hash text primary key,
      person_id uuid not null references people,
      kind text not null,
      expires_at timestamptz not null,
      used_at timestamptz
    );

    -- Wrong tries slow the next one down, per name and per address.
    create table sign_in_tries (
      key text primary key,
      wrong int not null,
      last_at timestamptz not null
    );

    create table program_passwords (
      id uuid primary key,
      person_id uuid not null references people,
      name text not null,
      token_hash text not null unique,
      made_at timestamptz not null,
      used_at timestamptz
    );
    create index program_passwords_of on program_passwords (person_id);

    -- Every address at which a person is or was known, to be imported there of a reset.
    create table person_addresses (
      person_id uuid references people,
      address text,
      primary key (person_id, address)
    );

    create table idempotency_keys (
      key text,
      person_id uuid,
      endpoint text not null,
      fingerprint text not null,
      answer jsonb not null,
      at timestamptz not null,
      primary key (person_id, key)
    );

    -- Raised in the transaction of the change: who reads the version reads what belongs to it.
    create function raise_access_version() returns trigger language plpgsql
AS $$
    begin
      update access_version set n = n + 1;
      return null;
    end $$;

    create trigger raise_access_version after update of confidentiality on organisation for each statement execute function raise_access_version();

    create trigger raise_access_version after insert or delete or update on units for each statement execute function raise_access_version();
  `);
};
