// breaking: no — what a version changed is kept beside it in one line, made when both texts are there.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table version_changes (
      version_id uuid primary key references versions,
      state text not null default 'waiting' check (state in ('waiting', 'done', 'none')),
      change jsonb
    );
    create index version_changes_waiting on version_changes (version_id) where state = 'waiting';

    -- A first version has nothing before it; every other one waits to be compared.
    create function wait_for_comparison() returns trigger language plpgsql as $f$
    begin
      if new.n > 1 or (select ordinal from revisions where id = new.revision_id) > 1 then
        insert into version_changes (version_id) values (new.id);
      end if;
      return null;
    end $f$;
    create trigger wait_for_comparison after insert on versions for each row execute function wait_for_comparison();
    insert into version_changes (version_id)
      select v.id from versions v join revisions r on r.id = v.revision_id where v.n > 1 or r.ordinal > 1;
  `);
};
