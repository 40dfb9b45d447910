import type { Facets } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Viewer } from '../access/index.ts';
import type { Dimension, Filter } from './filter.ts';
import { prepare } from './prepare.ts';
import { countFacets } from './storeCounts.ts';
import { STATE_WORDS } from './words.ts';

const REVIEW_WORDS: Record<string, string> = { overdue: 'Overdue', '30': 'In 30 days', '90': 'In 90 days' };

/** Counts of each filter value, named and in order: states by the life of a revision, the others by how many they are. */
export const facetsOf = async (app: App, viewer: Viewer, filter: Filter): Promise<Facets> => {
  const prepared = await prepare(app, viewer, filter);
  const counted = await countFacets(app.db, prepared);
  const { folders, types, units } = prepared.names;
  const typeNames = new Map([...types.values()].map((type) => [type.code, type.name]));
  const names: Record<Dimension, (value: string) => string | undefined> = {
    state: (value) => prepared.stateWords[value] ?? STATE_WORDS[value],
    area: (value) => folders.get(value)?.name,
    type: (value) => typeNames.get(value),
    department: (value) => units.get(value),
    review: (value) => REVIEW_WORDS[value],
  };
  const order = Object.keys(STATE_WORDS);
  const list = (dimension: Dimension) =>
    counted
      .filter((row) => row.dimension === dimension && row.value !== null && row.n > 0)
      .map((row) => ({
        value: row.value ?? '',
        name: names[dimension](row.value ?? '') ?? row.value ?? '',
        count: row.n,
      }))
      .sort((a, b) =>
        dimension === 'state'
          ? order.indexOf(a.value) - order.indexOf(b.value)
          : dimension === 'review'
            ? 0
            : b.count - a.count,
      );
  return {
    total: counted.find((row) => row.dimension === 'total')?.n ?? 0,
    state: list('state'),
    area: list('area'),
    type: list('type'),
    department: list('department'),
    review: list('review'),
  };
};
