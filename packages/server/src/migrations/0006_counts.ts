// breaking: no — how many documents and revisions there are per folder, type, department and state, for the counts beside filters.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Differences are only added: no command waits for another because both count in the same place. The runDueWork folds them
    -- together (find/counts.ts). Counted three times: documents as lists show them, single revisions, and documents by the month in
    -- which their review falls due.
    create table document_counts (
      revision_scope text not null constraint count_scope_known check (revision_scope in ('document', 'revision', 'review')),
      folder_id uuid not null,
      type_id uuid not null,
      department_id uuid,
      work_state text,
      public_state text,
      n int not null,
      review_month date
    );

    create index document_counts_by_month on document_counts (revision_scope, review_month);

    create function released_state(state text) returns text language sql immutable as
      $$ select case when state in ('in force', 'superseded', 'withdrawn') then state end $$;

    create function count_documents() returns trigger language plpgsql as $$
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
      -- What stands on the document counts for each of its revisions.
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
    create trigger count_documents_inserted after insert on documents
      referencing new table as after_rows for each statement execute function count_documents();
    create trigger count_documents_updated after update on documents
      referencing old table as before_rows new table as after_rows for each statement execute function count_documents();

    create function count_revisions() returns trigger language plpgsql as $$
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
    create trigger count_revisions_inserted after insert on revisions
      referencing new table as after_rows for each statement execute function count_revisions();
    create trigger count_revisions_updated after update on revisions
      referencing old table as before_rows new table as after_rows for each statement execute function count_revisions();

    -- The whole count from the rows themselves: for what is there before these triggers, and after a load without them.
    create function count_documents_anew() returns void language sql as $$
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
    select count_documents_anew();

    -- Due for review (find/counts.ts countReviews): read from the index alone.
    create index documents_review on documents (review_on) include (folder_id, department_id, type_id, newest_state, public_state, owner_id, id)
      where removed_at is null;
  `);
};
