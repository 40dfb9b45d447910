// breaking: no — what types lay down for the life of their documents, and what of it a document says itself.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    alter table types add column policy jsonb not null default '{}';
    alter table documents
      -- Null: as the type says.
      add column follows_naming_rule boolean,
      add column sharing text not null default '',
      -- Of documents from outside: where it comes from, which edition it is, who watches it.
      add column origin_source text not null default '',
      add column origin_edition text not null default '',
      add column origin_watcher uuid references people,
      add column origin_check_on date;
    create index documents_to_check on documents (origin_check_on) where origin_check_on is not null;
    alter table organisation
      add column follows_naming_rule boolean not null default false,
      add column logo text references contents,
      add column colour text not null default '' constraint colour_form check (colour = '' or colour ~ '^#[0-9a-f]{6}$'),
      add column state_words jsonb not null default '{}',
      -- Groups whose members are found by what people are: {unit, department, site, role}.
      add column group_rules jsonb not null default '[]';

    -- A number is never free again. A taken one becomes void only when its document is renumbered, and says where it went.
    create or replace function number_guard() returns trigger language plpgsql as $$
    declare renumbered boolean := old.state = 'taken' and new.state = 'void' and new.reason like 'now %'
      and new.document_id is not distinct from old.document_id;
    begin
      if (old.state <> 'reserved' and not renumbered) or new.state = 'reserved'
         or (old.folded, old.number, old.scope, old.counter) is distinct from (new.folded, new.number, new.scope, new.counter) then
        raise exception 'a number that was given keeps what it is' using errcode = 'KN009', constraint = 'number_for_ever';
      end if;
      return new;
    end $$;
  `);
};
