// breaking: no — The kinds of outside items are a list of the organisation.
import type { Knex } from 'knex';

export const up = async (knex: Knex): Promise<void> => {
  await knex.raw(`
    insert into choice_lists (key, name, options)
    select 'itemKind', 'Kinds of outside items', jsonb_agg(jsonb_build_object('code', code, 'text', code) order by n)
    from (
      select code, n from unnest(array['asset', 'part', 'order', 'record']) with ordinality as shipped (code, n)
      union
      -- What links name already stays a kind.
      select distinct item->>'kind', 9 from links where item is not null and item->>'kind' not in ('asset', 'part', 'order', 'record')
    ) kinds
    on conflict (key) do nothing;

    create index links_by_item on links (lower(item->>'code')) where (ended_at is null and item is not null);
  `);
};
