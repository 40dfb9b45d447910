// breaking: no — numbers that the text of a content cites, found once by a job however often the content is filed.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table citations (
      sha256 text not null references contents,
      n int not null,
      folded text not null,
      number text not null,
      label text,
      times int not null,
      excerpt text not null,
      primary key (sha256, n)
    );
    create index citations_by_number on citations (folded);
    alter table texts add column cited boolean not null default false;
    create index texts_not_cited on texts (sha256) where not cited;
  `);
};
