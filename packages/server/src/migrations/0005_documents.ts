// breaking: no — Documents with numbers, revisions, versions and files, and who has them checked out.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- A number is unique for ever, also after withdrawal or removal; a void number keeps its reason.
    create table numbers (
      folded text primary key,
      number text not null,
      document_id uuid,
      state text not null,
      reason text,
      scope text,
      counter bigint,
      reservation_id uuid,
      constraint number_length check ((octet_length(number) >= 1) and (octet_length(number) <= 240)),
      constraint number_state_known check (state in ('taken', 'void', 'reserved')),
      constraint void_has_reason check ((state <> 'void') or (reason is not null)),
      constraint reserved_by_a_reservation check ((state <> 'reserved') or (reservation_id is not null))
    );
    create index numbers_of_reservation on numbers (reservation_id, counter) where (reservation_id is not null);
    -- Void numbers are few and looked through; a taken one is found by its document.
    create index numbers_void on numbers (folded) where (state = 'void');

    create table reservations (
      id uuid primary key,
      type_id uuid not null references types,
      scope text not null,
      first bigint not null,
      last bigint not null,
      for_person_id uuid not null references people,
      reason text not null,
      until_day date not null,
      by_id uuid not null references people,
      at timestamptz not null,
      ended_at timestamptz,
      ended_why text,
      constraint reservation_order check (last >= first),
      constraint reservation_end_says_why check ((ended_at is null) = (ended_why is null))
    );
    create index reservations_open on reservations (until_day) where (ended_at is null);

    alter table numbers add constraint numbers_reservation_id_fkey foreign key (reservation_id) references reservations(id);
    create table documents (
      id uuid primary key,
      number text not null,
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
      public_title text,
      removed_why text,
      removed_by uuid references people,
      -- What was taken over is looked at by somebody once; who signed is kept as imported.
      unverified_since timestamptz,
      parent_id uuid references documents,
      location text not null default '',
      sites text[] not null default '{}',
      review_months int,
      -- Null: as the type says.
      follows_naming_rule boolean,
      sharing text not null default '',
      -- Of documents from outside: where it comes from, which edition it is, who watches it.
      origin_source text not null default '',
      origin_edition text not null default '',
      origin_watcher uuid references people,
      origin_check_on date,
      constraint document_number_unique unique (number),
      constraint confidentiality_known check (confidentiality in ('public', 'internal', 'confidential', 'restricted')),
      constraint own_review_months check ((review_months >= 0) and (review_months <= 240)),
      constraint not_its_own_parent check (parent_id <> id)
    );
    -- Hot statements: a page of the register by number (find/store.ts listPage), newest or public, with or without state.
    create index documents_list on documents (number) INCLUDE (folder_id, owner_id, id) where (removed_at is null);
    create index documents_by_state on documents (department_id, newest_state, number) where (removed_at is null);
    create index documents_by_folder on documents (folder_id, number) where (removed_at is null);
    create index documents_changed on documents (changed_at desc, id) where (removed_at is null);
    create index documents_by_owner on documents (owner_id);
    create index documents_withdraw on documents (withdraw_on) where (withdraw_on is not null);
    -- Number prefix as a range: LIKE with a parameter cannot use the unique index.
    create index documents_number_prefix on documents (number text_pattern_ops);
    create index documents_number_similar on documents using gin (number gin_trgm_ops);
    -- From the candidates of a search to their documents (find/store.ts listHits).
    create index documents_by_newest on documents (newest_revision_id);
    create index documents_by_public on documents (public_revision_id);
    -- Due for review (find/counts.ts countReviews): read from the index alone.
    create index documents_review on documents (review_on) INCLUDE (folder_id, department_id, type_id, newest_state, public_state, owner_id, id) where (removed_at is null);
    -- What a person registered recent (documents/store.ts listRecent).
    create index documents_by_registrar on documents (registered_by, registered_at desc);
    create index documents_removed on documents (removed_at desc) where (removed_at is not null);
    create index documents_unverified on documents (unverified_since, number) where (unverified_since is not null);
    create index documents_by_parent on documents (parent_id) where (parent_id is not null);
    -- What may not be shared outside is looked for when somebody from outside opens a list (access/store.ts).
    create index documents_confidential on documents (confidentiality) where (confidentiality = ANY (ARRAY['confidential', 'restricted']));
    create index documents_to_check on documents (origin_check_on) where (origin_check_on is not null);

    alter table grants add constraint grants_document_id_fkey foreign key (document_id) references documents(id);
    create table revisions (
      id uuid primary key,
      document_id uuid not null references documents,
      ordinal int not null,
      label text not null,
      change_kind text not null,
      reason text not null default '',
      summary text not null default '',
      title text not null,
      metadata jsonb not null default '{}',
      state text not null,
      planned_on date,
      blocked_since timestamptz,
      latest_version_id uuid,
      version_count int not null default 0,
      created_at timestamptz not null,
      created_by uuid not null references people,
      row_version int not null default 1,
      -- Words of title, number and metadata; the texts of files are in texts.
      search tsvector,
      imported jsonb,
      constraint revision_ordinal_unique unique (document_id, ordinal),
      constraint change_kind_known check (change_kind in ('first issue', 'minor', 'major', 'editorial')),
      constraint revision_state_known check (state in ('draft', 'in review', 'in approval', 'approved', 'scheduled', 'in force', 'superseded', 'withdrawn', 'abandoned')),
      constraint planned_when_scheduled check ((state = 'scheduled') = (planned_on is not null))
    );
    -- A label is borne once in a document; that of an abandoned revision is free again.
    create unique index revision_label_unique on revisions (document_id, label) where (state <> 'abandoned');
    create unique index one_revision_in_work on revisions (document_id) where (state = ANY (ARRAY['draft', 'in review', 'in approval', 'approved', 'scheduled']));
    create unique index one_revision_in_force on revisions (document_id) where (state = 'in force');
    create index revisions_search on revisions using gin (search);
    create index revisions_planned on revisions (planned_on) where (planned_on is not null);

    create table periods (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      label text not null,
      from_at timestamptz not null,
      to_at timestamptz,
      constraint period_order check ((to_at is null) or (to_at > from_at)),
      constraint periods_do_not_overlap exclude using gist (document_id with =, tstzrange(from_at, to_at) with &&)
    );
    -- In force on a day (find/store.ts): the newest period that began before the end of that day.
    create index periods_lookup on periods (document_id, from_at desc) INCLUDE (to_at, label, revision_id);

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
      role text not null,
      name text not null,
      sha256 text not null references contents,
      size bigint not null,
      sort int not null default 0,
      description text not null default '',
      language text not null default '',
      sheet int,
      constraint file_role_known check (role in ('original', 'attachment', 'rendition')),
      constraint sheet_counts_from_one check (sheet >= 1)
    );
    create index version_files_by_version on version_files (version_id, sort);
    create index version_files_by_content on version_files (sha256);
    -- Whether a file of this name is there already (documents/matching.ts).
    create index version_files_by_name on version_files (name);

    create table version_changes (
      version_id uuid primary key references versions,
      state text not null default 'waiting',
      change jsonb,
      constraint version_changes_state_check check (state in ('waiting', 'done', 'none'))
    );
    create index version_changes_waiting on version_changes (version_id) where (state = 'waiting');

    create table removed_versions (
      version_id uuid primary key references versions,
      by_id uuid not null references people,
      at timestamptz not null,
      reason text not null,
      freed bigint not null
    );

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
    create unique index one_open_checkout on checkouts (document_id) where (ended_at is null);
    create index checkouts_open_by_person on checkouts (person_id) where (ended_at is null);

    -- A shortcut gives no right and is never dead: it goes with its folder, and the document is the one that it is.
    create table shortcuts (
      document_id uuid references documents,
      folder_id uuid references folders on delete cascade,
      by_id uuid not null references people,
      at timestamptz not null,
      primary key (folder_id, document_id)
    );
    create index shortcuts_by_document on shortcuts (document_id);

    create table links (
      id uuid primary key,
      document_id uuid not null references documents,
      kind text not null,
      to_document_id uuid references documents,
      -- Pinned to a revision; without one the link follows what is in force.
      to_revision_id uuid references revisions,
      address text,
      item jsonb,
      note text not null default '',
      by_id uuid not null references people,
      at timestamptz not null,
      ended_at timestamptz,
      constraint links_check check (num_nonnulls(to_document_id, address, item) = 1),
      constraint links_check1 check ((to_revision_id is null) or (to_document_id is not null))
    );
    create index links_from on links (document_id) where (ended_at is null);
    create index links_to on links (to_document_id) where (ended_at is null);
    create unique index links_once on links (document_id, kind, to_document_id, COALESCE(to_revision_id, document_id)) where ((ended_at is null) and (to_document_id is not null));

    create table citations (
      sha256 text references contents,
      n int,
      folded text not null,
      number text not null,
      label text,
      times int not null,
      excerpt text not null,
      primary key (sha256, n)
    );
    create index citations_by_number on citations (folded);

    -- Differences are only added: no command waits for another because both count in the same place. The runDueWork folds them
    -- together (find/counts.ts). Counted three times: documents as lists show them, single revisions, and documents by the month in
    -- which their review falls due.
    create table document_counts (
      revision_scope text not null,
      folder_id uuid not null,
      type_id uuid not null,
      department_id uuid,
      work_state text,
      public_state text,
      n int not null,
      review_month date,
      constraint count_scope_known check (revision_scope in ('document', 'revision', 'review'))
    );
    create index document_counts_by_month on document_counts (revision_scope, review_month);

    create function released_state(state text) returns text language sql immutable
AS $$ select case when state in ('in force', 'superseded', 'withdrawn') then state end $$;

    -- A number is never free again. A taken one becomes void only when its document is renumbered, and says where it went.
    create function number_guard() returns trigger language plpgsql
AS $$
    declare renumbered boolean := old.state = 'taken' and new.state = 'void' and new.reason like 'now %'
      and new.document_id is not distinct from old.document_id;
    begin
      if (old.state <> 'reserved' and not renumbered) or new.state = 'reserved'
         or (old.folded, old.number, old.scope, old.counter) is distinct from (new.folded, new.number, new.scope, new.counter) then
        raise exception 'a number that was given keeps what it is' using errcode = 'KN009', constraint = 'number_for_ever';
      end if;
      return new;
    end $$;

    create trigger number_guard before update on numbers for each row execute function number_guard();

    create function count_documents() returns trigger language plpgsql
AS $$
    begin
      if tg_op = 'INSERT' then
        insert into document_counts
          select 'document', folder_id, type_id, department_id, newest_state, public_state, count(*)
          from after_rows where removed_at is null group by 2, 3, 4, 5, 6;
        insert into document_counts
          select 'review', folder_id, type_id, department_id, newest_state, public_state, count(*), date_trunc('month', review_on)
          from after_rows where removed_at is null and review_on is not null group by 2, 3, 4, 5, 6, 8;
        return null;
      end if;
      insert into document_counts
        select 'review', folder_id, type_id, department_id, newest_state, public_state, sum(n), date_trunc('month', review_on) from (
          select folder_id, type_id, department_id, newest_state, public_state, review_on, 1 as n from after_rows where removed_at is null
          union all
          select folder_id, type_id, department_id, newest_state, public_state, review_on, -1 from before_rows where removed_at is null) x
        where review_on is not null group by 2, 3, 4, 5, 6, 8 having sum(n) <> 0;
      insert into document_counts
        select 'document', folder_id, type_id, department_id, newest_state, public_state, sum(n) from (
          select folder_id, type_id, department_id, newest_state, public_state, 1 as n from after_rows where removed_at is null
          union all
          select folder_id, type_id, department_id, newest_state, public_state, -1 from before_rows where removed_at is null) x
        group by 2, 3, 4, 5, 6 having sum(n) <> 0;
      -- The metadata of the document count for each of its revisions.
      insert into document_counts
        select 'revision', x.folder_id, x.type_id, x.department_id, r.state, released_state(r.state), sum(n) from (
          select a.id, a.folder_id, a.type_id, a.department_id, 1 as n, a.removed_at from after_rows a
          union all
          select b.id, b.folder_id, b.type_id, b.department_id, -1, b.removed_at from before_rows b) x
        join (select a.id from after_rows a join before_rows b using (id)
              where (a.folder_id, a.type_id, a.department_id, a.removed_at) is distinct from (b.folder_id, b.type_id, b.department_id, b.removed_at)) moved using (id)
        join revisions r on r.document_id = x.id
        where x.removed_at is null group by 2, 3, 4, 5, 6 having sum(n) <> 0;
      return null;
    end $$;

    create trigger count_documents_inserted after insert on documents referencing new table as after_rows for each statement execute function count_documents();

    create trigger count_documents_updated after update on documents referencing old table as before_rows new table as after_rows for each statement execute function count_documents();

    -- A released revision changes no more, its state and row version apart; and states move only as the trade allows.
    create function revision_guard() returns trigger language plpgsql
AS $$
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

    create function count_revisions() returns trigger language plpgsql
AS $$
    begin
      if tg_op = 'INSERT' then
        insert into document_counts
          select 'revision', d.folder_id, d.type_id, d.department_id, a.state, released_state(a.state), count(*)
          from after_rows a join documents d on d.id = a.document_id where d.removed_at is null group by 2, 3, 4, 5, 6;
        return null;
      end if;
      insert into document_counts
        select 'revision', d.folder_id, d.type_id, d.department_id, x.state, released_state(x.state), sum(n) from (
          select document_id, state, 1 as n from after_rows union all select document_id, state, -1 from before_rows) x
        join documents d on d.id = x.document_id
        where d.removed_at is null group by 2, 3, 4, 5, 6 having sum(n) <> 0;
      return null;
    end $$;

    create trigger count_revisions_inserted after insert on revisions referencing new table as after_rows for each statement execute function count_revisions();

    create trigger count_revisions_updated after update on revisions referencing old table as before_rows new table as after_rows for each statement execute function count_revisions();

    create function version_guard() returns trigger language plpgsql
AS $$
    begin
      raise exception 'a version changes no more' using errcode = 'KN004', constraint = 'version_immutable';
    end $$;

    create trigger version_guard before delete or update on versions for each row execute function version_guard();

    -- A first version has nothing before it; every other one waits to be compared.
    create function wait_for_comparison() returns trigger language plpgsql
AS $$
    begin
      if new.n > 1 or (select ordinal from revisions where id = new.revision_id) > 1 then
        insert into version_changes (version_id) values (new.id);
      end if;
      return null;
    end $$;

    create trigger wait_for_comparison after insert on versions for each row execute function wait_for_comparison();

    create trigger version_file_guard before delete or update on version_files for each row execute function version_guard();

    -- The whole count from the rows themselves: for what is there before these triggers, and after a load without them.
    create function count_documents_anew() returns void language sql
AS $$
      delete from document_counts;
      insert into document_counts
        select 'document', folder_id, type_id, department_id, newest_state, public_state, count(*)
        from documents where removed_at is null group by 2, 3, 4, 5, 6;
      insert into document_counts
        select 'review', folder_id, type_id, department_id, newest_state, public_state, count(*), date_trunc('month', review_on)
        from documents where removed_at is null and review_on is not null group by 2, 3, 4, 5, 6, 8;
      insert into document_counts
        select 'revision', d.folder_id, d.type_id, d.department_id, r.state, released_state(r.state), count(*)
        from revisions r join documents d on d.id = r.document_id where d.removed_at is null group by 2, 3, 4, 5, 6;
    $$;
  `);
};
