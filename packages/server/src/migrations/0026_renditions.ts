// breaking: no — pages made of office files, small pictures of first pages, and text that was read from scans.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Made once for a content, however often that is filed.
    create table renditions (
      sha256 text not null references contents,
      kind text not null check (kind in ('pages', 'small')),
      state text not null check (state in ('waiting', 'done', 'failed')),
      result_sha256 text references contents,
      tries int not null default 0,
      why text,
      asked_at timestamptz not null,
      made_at timestamptz,
      primary key (sha256, kind)
    );
    create index renditions_waiting on renditions (kind, asked_at) where state = 'waiting';

    create table scans (
      sha256 text primary key references contents,
      language text not null,
      confidence real not null,
      pages int not null
    );
  `);
};
