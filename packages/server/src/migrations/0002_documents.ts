// breaking: no — filing plan, types, documents, revisions, versions, content.
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
      constraint folder_name_unique unique nulls not distinct (parent_id, name),
      constraint folder_in_its_path check (path[cardinality(path)] = id)
    );
    create index folders_by_path on folders using gin (path);

    create table types (
      id uuid primary key,
      code text not null constraint type_code_unique unique,
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
      constraint type_number_source check ((numbering_rule is null) or (external_pattern is null))
    );

    create table counters (
      scope text primary key,
      last bigint not null constraint counter_not_negative check (last >= 0),
      started_at bigint not null default 0
    );

    -- A number is unique for ever, also after withdrawal or removal; a void number keeps its reason.
    create table numbers (
      folded text primary key,
      number text not null constraint number_length check (octet_length(number) between 1 and 240),
      document_id uuid,
      state text not null constraint number_state_known check (state in ('taken', 'void', 'reserved')),
      reason text,
      scope text,
      counter bigint,
      constraint void_has_reason check (state <> 'void' or reason is not null)
    );

    create table documents (
      id uuid primary key,
      number text not null constraint document_number_unique unique,
      type_id uuid not null references types,
      folder_id uuid not null references folders,
      owner_id uuid not null references people,
      department_id uuid references units,
      confidentiality text not null default 'internal',
      metadata jsonb not null default '{}',
      keywords text[] not null default '{}',
      review_on date,
      withdraw_on date,
      withdraw_reason text,
      registered_at timestamptz not null,
      registered_by uuid not null references people,
      changed_at timestamptz not null,
      removed_at timestamptz,
      row_version int not null default 1,
      -- What lists show, kept by the services in the transaction of each command: the newest revision for those who may read
      -- work, and the one that everyone else sees (in force, else the last released).
      newest_revision_id uuid,
      newest_state text,
      newest_label text,
      newest_title text,
      public_revision_id uuid,
      public_state text,
      public_label text,
      public_title text
    );
    -- Hot statements: a page of the register by number (find/store.ts listPage), newest or public, with or without state.
    create index documents_list on documents (number) include (folder_id, owner_id, id) where removed_at is null;
    create index documents_by_state on documents (department_id, newest_state, number) where removed_at is null;
    create index documents_by_folder on documents (folder_id, number) where removed_at is null;
    create index documents_changed on documents (changed_at desc, id) where removed_at is null;
    create index documents_by_owner on documents (owner_id);
    create index documents_withdraw on documents (withdraw_on) where withdraw_on is not null;
    -- Number prefix as a range: LIKE with a parameter cannot use the unique index.
    create index documents_number_prefix on documents (number text_pattern_ops);
    create index documents_number_similar on documents using gin (number gin_trgm_ops);

    create table revisions (
      id uuid primary key,
      document_id uuid not null references documents,
      ordinal int not null,
      label text not null,
      change_kind text not null constraint change_kind_known check (change_kind in ('first issue', 'minor', 'major', 'editorial')),
      reason text not null default '',
      summary text not null default '',
      title text not null,
      metadata jsonb not null default '{}',
      state text not null constraint revision_state_known check (state in
        ('draft', 'in review', 'in approval', 'approved', 'scheduled', 'in force', 'superseded', 'withdrawn', 'abandoned')),
      planned_on date,
      blocked_since timestamptz,
      latest_version_id uuid,
      version_count int not null default 0,
      created_at timestamptz not null,
      created_by uuid not null references people,
      row_version int not null default 1,
      -- Words of title, number and metadata; the texts of files stand in texts.
      search tsvector,
      constraint revision_ordinal_unique unique (document_id, ordinal),
      constraint planned_when_scheduled check ((state = 'scheduled') = (planned_on is not null))
    );
    -- A label is borne once in a document; that of an abandoned revision is free again.
    create unique index revision_label_unique on revisions (document_id, label) where state <> 'abandoned';
    create unique index one_revision_in_work on revisions (document_id)
      where state in ('draft', 'in review', 'in approval', 'approved', 'scheduled');
    create unique index one_revision_in_force on revisions (document_id) where state = 'in force';
    create index revisions_search on revisions using gin (search);
    create index revisions_planned on revisions (planned_on) where planned_on is not null;

    -- A released revision changes no more, its state and row version apart; and states move only as the trade allows.
    create function revision_guard() returns trigger language plpgsql as $$
    begin
      if old.state in ('in force', 'superseded', 'withdrawn') and
         (new.label, new.title, new.reason, new.summary, new.metadata, new.change_kind, new.ordinal, new.document_id,
          new.latest_version_id, new.version_count, new.created_at, new.created_by)
         is distinct from
         (old.label, old.title, old.reason, old.summary, old.metadata, old.change_kind, old.ordinal, old.document_id,
          old.latest_version_id, old.version_count, old.created_at, old.created_by) then
        raise exception 'a released revision changes no more' using errcode = 'KN001', constraint = 'released_is_frozen';
      end if;
      if new.state <> old.state and not (old.state, new.state) in (
        ('draft', 'in review'), ('draft', 'in approval'), ('draft', 'scheduled'), ('draft', 'in force'), ('draft', 'abandoned'),
        ('in review', 'in approval'), ('in review', 'draft'), ('in review', 'approved'),
        ('in approval', 'draft'), ('in approval', 'in review'), ('in approval', 'approved'),
        ('approved', 'in force'), ('approved', 'scheduled'), ('approved', 'draft'),
        ('scheduled', 'in force'), ('scheduled', 'approved'), ('scheduled', 'draft'),
        ('in force', 'superseded'), ('in force', 'withdrawn'), ('withdrawn', 'in force'), ('abandoned', 'draft')) then
        raise exception 'no command leads from % to %', old.state, new.state using errcode = 'KN002', constraint = 'state_moves';
      end if;
      return new;
    end $$;
    create trigger revision_guard before update on revisions for each row execute function revision_guard();

    create table periods (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      label text not null,
      from_at timestamptz not null,
      to_at timestamptz,
      constraint period_order check (to_at is null or to_at > from_at),
      constraint periods_do_not_overlap exclude using gist (document_id with =, tstzrange(from_at, to_at) with &&)
    );
    -- In force on a day (find/store.ts): the newest period that began before the end of that day.
    create index periods_lookup on periods (document_id, from_at desc) include (to_at, label, revision_id);

    -- Content is immutable and addressed by its SHA-256.
    create table contents (
      sha256 text primary key constraint content_hash check (sha256 ~ '^[0-9a-f]{64}$'),
      size bigint not null,
      media_type text not null,
      stored_at timestamptz not null,
      text_state text not null default 'waiting' constraint text_state_known check (text_state in ('waiting', 'done', 'none', 'broken')),
      words int not null default 0,
      pictures int not null default 0,
      checked_on date,
      check_failed boolean not null default false
    );
    create function content_guard() returns trigger language plpgsql as $$
    begin
      if tg_op = 'DELETE' or new.sha256 <> old.sha256 or new.size <> old.size then
        raise exception 'content is immutable' using errcode = 'KN003', constraint = 'content_immutable';
      end if;
      return new;
    end $$;
    create trigger content_guard before update or delete on contents for each row execute function content_guard();

    create table texts (
      sha256 text primary key references contents,
      text text not null,
      words tsvector not null
    );
    create index texts_words on texts using gin (words);

    create table uploads (
      id uuid primary key,
      sha256 text not null references contents,
      name text not null,
      by_id uuid not null references people,
      at timestamptz not null
    );

    create table versions (
      id uuid primary key,
      revision_id uuid not null references revisions,
      n int not null,
      note text not null default '',
      by_id uuid not null references people,
      at timestamptz not null,
      title text not null,
      metadata jsonb not null default '{}',
      constraint version_number_unique unique (revision_id, n)
    );
    create index versions_by_author on versions (by_id);

    create table version_files (
      id uuid primary key,
      version_id uuid not null references versions,
      role text not null constraint file_role_known check (role in ('original', 'attachment', 'rendition')),
      name text not null,
      sha256 text not null references contents,
      size bigint not null,
      sort int not null default 0
    );
    create index version_files_by_version on version_files (version_id, sort);
    create index version_files_by_content on version_files (sha256);
    create function version_guard() returns trigger language plpgsql as $$
    begin
      raise exception 'a version changes no more' using errcode = 'KN004', constraint = 'version_immutable';
    end $$;
    create trigger version_guard before update or delete on versions for each row execute function version_guard();
    create trigger version_file_guard before update or delete on version_files for each row execute function version_guard();

    create table checkouts (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      person_id uuid not null references people,
      at timestamptz not null,
      note text not null default '',
      expected_back date,
      ended_at timestamptz,
      ended_how text
    );
    create unique index one_open_checkout on checkouts (document_id) where ended_at is null;
    create index checkouts_open_by_person on checkouts (person_id) where ended_at is null;

    create table comments (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      version int not null,
      person_id uuid not null references people,
      at timestamptz not null,
      kind text not null constraint comment_kind_known check (kind in ('comment', 'blocking', 'remark')),
      text text not null,
      quote text,
      resolved_at timestamptz,
      resolved_by uuid references people,
      resolution text not null default ''
    );
    create index comments_by_document on comments (document_id, at);

    create table grants (
      id uuid primary key,
      folder_id uuid references folders,
      document_id uuid references documents,
      subject_kind text not null constraint grant_subject_known check (subject_kind in ('person', 'unit', 'all')),
      subject_id uuid,
      rights text[] not null,
      withheld boolean not null default false,
      constraint grant_on_one_place check ((folder_id is null) <> (document_id is null)),
      constraint grant_subject_given check ((subject_kind = 'all') = (subject_id is null)),
      constraint withheld_from_person check (not withheld or subject_kind = 'person'),
      constraint grant_once unique nulls not distinct (folder_id, document_id, subject_kind, subject_id)
    );
    create index grants_by_document on grants (document_id) where document_id is not null;
  `);
};
