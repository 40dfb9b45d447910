// breaking: yes — Periodic reviews and what became of them; an interval may count in days, so its columns are named anew.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    alter table types rename column review_months to review_every;
    alter table documents drop constraint own_review_months;
    alter table documents rename column review_months to review_every;
    alter table documents add constraint own_review_every check ((review_every >= 0) and (review_every <= 7300));

    create table reviews (
      id uuid primary key,
      document_id uuid not null references documents,
      revision_id uuid not null references revisions,
      person_id uuid not null references people,
      at timestamptz not null,
      outcome text not null,
      -- On which day it was due, and on which it is due after this.
      due_on date not null,
      next_on date,
      comment text not null default '',
      constraint review_outcome_known check (outcome in ('confirmed', 'minor change', 'major change', 'withdrawal', 'postponed', 'brought forward'))
    );
    create index reviews_of_document on reviews (document_id, at desc);
  `);
};
