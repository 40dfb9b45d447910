// breaking: no — numbers that were taken from a counter for somebody, to be used by naming them.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
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
    create index reservations_open on reservations (until_day) where ended_at is null;

    alter table numbers add column reservation_id uuid references reservations;
    create index numbers_of_reservation on numbers (reservation_id, counter) where reservation_id is not null;
    -- Void numbers are few and looked through; a taken one is found by its document.
    create index numbers_void on numbers (folded) where state = 'void';
    alter table numbers add constraint reserved_by_a_reservation check (state <> 'reserved' or reservation_id is not null);
    -- A number is never free again: what is taken or void stays so, and a reserved one becomes the one or the other.
    create function number_guard() returns trigger language plpgsql as $$
    begin
      if old.state <> 'reserved' or new.state = 'reserved' or (old.folded, old.number, old.scope, old.counter) is distinct from (new.folded, new.number, new.scope, new.counter) then
        raise exception 'a number that was given keeps what it is' using errcode = 'KN009', constraint = 'number_for_ever';
      end if;
      return new;
    end $$;
    create trigger number_guard before update on numbers for each row execute function number_guard();
  `);
};
