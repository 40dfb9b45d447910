// breaking: no — a version of the filing plan and its entries, so that servers may keep both in memory.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table access_version (id int primary key default 1 check (id = 1), n bigint not null);
    insert into access_version (n) values (1);
    -- Raised in the transaction of the change: who reads the version reads what belongs to it.
    create function raise_access_version() returns trigger language plpgsql as $$
    begin
      update access_version set n = n + 1;
      return null;
    end $$;
    create trigger raise_access_version after insert or update or delete on folders for each statement execute function raise_access_version();
    create trigger raise_access_version after insert or update or delete on grants for each statement execute function raise_access_version();
    -- From the candidates of a search to their documents (find/store.ts listHits).
    create index documents_by_newest on documents (newest_revision_id);
    create index documents_by_public on documents (public_revision_id);
    create index grants_by_folder on grants (folder_id) where folder_id is not null;
    create index assignments_answered on assignments (decided_by) where state = 'answered';
    create index readings_of_person on reading_assignments (person_id, document_id) where state in ('open', 'signed', 'carried over');
  `);
};
