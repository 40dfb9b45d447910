// breaking: no — bytes that nothing holds any more can go: of drafts that were saved anew, of files sent and never used.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- unread: a draft at somebody's desk, whose text nobody looks for yet; gone: its bytes were removed, its hash is remembered.
    alter table contents drop constraint text_state_known;
    alter table contents add constraint text_state_known check (text_state in ('waiting', 'done', 'none', 'broken', 'unread', 'gone'));

    -- What is filed cannot be deleted, for its versions refer to it; what nothing refers to may be.
    create or replace function content_guard() returns trigger language plpgsql as $$
    begin
      if tg_op = 'DELETE' then return old; end if;
      if new.sha256 <> old.sha256 or new.size <> old.size then
        raise exception 'content is immutable' using errcode = 'KN003', constraint = 'content_immutable';
      end if;
      return new;
    end $$;
    create index uploads_of_content on uploads (sha256);
    create index uploads_by_age on uploads (at);
  `);
};
