// breaking: no — Stored contents by their hash, with what is read from and made of them.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Content is immutable and addressed by its SHA-256.
    create table contents (
      sha256 text primary key,
      size bigint not null,
      media_type text not null,
      stored_at timestamptz not null,
      text_state text not null default 'waiting',
      words int not null default 0,
      pictures int not null default 0,
      checked_on date,
      check_failed boolean not null default false,
      -- Contents whose bytes are no longer those that were stored: who reads them is refused until they are put right.
      checked_mtime_ms bigint,
      constraint content_hash check (sha256 ~ '^[0-9a-f]{64}$'),
      constraint text_state_known check (text_state in ('waiting', 'done', 'none', 'broken', 'unread', 'gone'))
    );
    create index contents_to_check on contents (checked_on NULLS FIRST, sha256);

    alter table organisation add constraint organisation_logo_fkey foreign key (logo) references contents(sha256);
    create table texts (
      sha256 text primary key references contents,
      text text not null,
      words tsvector not null,
      cited boolean not null default false
    );
    create index texts_words on texts using gin (words);
    create index texts_not_cited on texts (sha256) where (not cited);

    -- Made once for a content, however often that is filed.
    create table renditions (
      sha256 text references contents,
      kind text,
      state text not null,
      result_sha256 text references contents,
      tries int not null default 0,
      why text,
      asked_at timestamptz not null,
      made_at timestamptz,
      primary key (sha256, kind),
      constraint renditions_state_check check (state in ('waiting', 'done', 'failed')),
      constraint renditions_kind_check check (kind in ('pages', 'sheets', 'small'))
    );
    create index renditions_waiting on renditions (kind, asked_at) where (state = 'waiting');

    create table scans (
      sha256 text primary key references contents,
      language text not null,
      confidence real not null,
      pages int not null
    );

    create table uploads (
      id uuid primary key,
      sha256 text not null references contents,
      name text not null,
      by_id uuid not null references people,
      at timestamptz not null
    );
    create index uploads_of_content on uploads (sha256);
    create index uploads_by_age on uploads (at);

    create table content_incidents (
      id uuid primary key,
      sha256 text not null references contents,
      what text not null,
      found_by text not null,
      found_at timestamptz not null,
      ended_at timestamptz,
      notified_at timestamptz,
      constraint incident_known check (what in ('altered', 'missing'))
    );
    create unique index one_open_incident on content_incidents (sha256) where (ended_at is null);

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

    -- What is filed cannot be deleted, for its versions refer to it; what nothing refers to may be.
    create function content_guard() returns trigger language plpgsql
AS $$
    begin
      if tg_op = 'DELETE' then return old; end if;
      if new.sha256 <> old.sha256 or new.size <> old.size then
        raise exception 'content is immutable' using errcode = 'KN003', constraint = 'content_immutable';
      end if;
      return new;
    end $$;

    create trigger content_guard before delete or update on contents for each row execute function content_guard();

    create function template_edition_guard() returns trigger language plpgsql
AS $$
    begin
      raise exception 'an edition of a template changes no more' using errcode = 'KN011', constraint = 'edition_immutable';
    end $$;

    create trigger template_edition_guard before delete or update on template_editions for each row execute function template_edition_guard();
  `);
};
