// breaking: no — Orders to write a document or to revise one.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    create table orders (
      id uuid primary key,
      -- Counted by year: the number is made of both.
      year int not null,
      n int not null,
      number text not null constraint orders_number unique,
      kind text not null check (kind in ('write', 'revise')),
      -- Of an order to revise.
      document_id uuid references documents,
      -- The revision after which the ordered one comes: time does not tell what was begun for it.
      after_ordinal int not null default 0,
      -- Of an order to write: what it will be and where, with the number that is kept for it.
      type_id uuid references types,
      folder_id uuid references folders,
      title text,
      reserved_number text,
      reservation_id uuid references reservations,
      why text not null,
      assignee_id uuid not null references people,
      due_on date not null,
      by_id uuid not null references people,
      at timestamptz not null,
      ended text check (ended in ('withdrawn', 'declined')),
      ended_reason text,
      ended_at timestamptz,
      constraint orders_of_year unique (year, n),
      constraint order_subject check ((kind = 'revise') = (document_id is not null) and (kind = 'write') = (type_id is not null and folder_id is not null and title is not null)),
      constraint order_end check ((ended is null) = (ended_at is null))
    );
    create index orders_for on orders (assignee_id) where (ended is null);
    create index orders_by on orders (by_id) where (ended is null);
    create index orders_of on orders (document_id) where (document_id is not null);
  `);
};
