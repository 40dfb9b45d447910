// breaking: no — the end of the trail, locked and read in one call.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    -- Volatile, so that the reading has a snapshot of its own that is younger than the lock.
    create function trail_head(out seq bigint, out hash text, out at timestamptz) returns setof record language plpgsql volatile as $$
    begin
      perform pg_advisory_xact_lock(7204101);
      return query select e.seq, e.hash, e.at from events e order by e.seq desc limit 1;
    end $$;
  `);
};
