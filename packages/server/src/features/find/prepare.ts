import { dayOf, type Search } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db } from '../../platform/db/connect.ts';
import { type ListScope, listScopeWithNames, type PlanNames, type Viewer } from '../access/index.ts';
import {
  type Branch,
  branchesOf,
  candidatesOf,
  conditionsOf,
  type Dimension,
  type Filter,
  RANKED,
  rarity,
  readSearch,
  searchConditions,
  viewEnd,
} from './filter.ts';
import * as store from './store.ts';

/** A filter for a viewer on a day: the branches to list and the conditions on each. */
export type Prepared = {
  filter: Filter;
  branches: Branch[];
  scope: ListScope;
  names: PlanNames;
  today: string;
  zone: string;
  /** Conditions on a branch, without those of the dimensions whose own counts are wanted. */
  where: (branch: Branch, without?: readonly Dimension[]) => { where: string[]; bindings: Record<string, unknown> };
  candidates: string | undefined;
  /** Documents that the folder of the filter shows by shortcuts. */
  shortcuts: readonly string[];
  base: Record<string, unknown>;
  /** How the organisation words its states. */
  stateWords: Readonly<Record<string, string>>;
};

/** The metadata that a search may name, by kind. */
export const fieldKinds = async (app: App) =>
  Object.fromEntries(
    (await store.listFieldKinds(app.db)).map(
      (f) =>
        [
          f.key,
          f.kind === 'number' ? 'number' : f.kind === 'date' ? 'date' : f.kind === 'person' ? 'person' : 'text',
        ] as const,
    ),
  );

/** A scope of fewer documents than this is looked through document by document. */
const FEW = 12_000;

/** The cheapest way to the candidates of a search: by its hits if few, by the visible documents if few. */
export const wayTo = async (db: Db, search: Search, scope: ListScope): Promise<{ rare: boolean; narrow: boolean }> => {
  const rare = rarity(search);
  const hits = rare && (await store.countHits(db, rare));
  if (hits && hits.texts <= RANKED && hits.metadata <= RANKED) return { rare: true, narrow: false };
  return { rare: false, narrow: (await store.countInFolders(db, scope.seeFolders)) < FEW };
};

export const prepare = async (app: App, viewer: Viewer, filter: Filter): Promise<Prepared> => {
  const { zone, stateWords } = await app.organisation();
  const today = dayOf(app.clock(), zone);
  const { scope, names } = await listScopeWithNames(app.db, viewer, today);
  const search = filter.q.trim() ? readSearch(filter.q, await fieldKinds(app)) : { terms: [] };
  const shortcuts =
    filter.folder && filter.reach !== 'everywhere'
      ? await store.listShortcuts(app.db, filter.folder, filter.reach === 'below')
      : [];
  return {
    filter,
    stateWords,
    shortcuts,
    branches: branchesOf(filter, scope, today),
    scope,
    names,
    today,
    zone,
    candidates: search.terms.length
      ? candidatesOf(search, {
          ranked: false,
          ...(await wayTo(app.db, search, scope)),
          shown: filter.revisionScope !== 'all revisions' && (!filter.on || filter.on === today),
        })
      : undefined,
    base: { ...scope, on: filter.on ?? null, viewEnd: viewEnd(filter.on, zone), zone, today },
    where: (branch, without = []) => {
      const [conditions, words] = [
        conditionsOf(filter, branch, today, without, shortcuts),
        searchConditions(search, branch, viewer.id),
      ];
      return {
        where: [...branch.where, ...conditions.where, ...words.where],
        bindings: { ...conditions.bindings, ...words.bindings },
      };
    },
  };
};
