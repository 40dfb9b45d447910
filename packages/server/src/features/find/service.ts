import type { AnswerOf, api, QueryOf, RegisterRow } from '@kanonos/contract';
import {
  dayInWords,
  dayOf,
  daysBetween,
  endInstantOf,
  firstInstantOf,
  guessNumbers,
  isReleased,
  timeOf,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { HOT } from '../../platform/db/connect.ts';
import { refused } from '../../platform/refused.ts';
import { type ListScope, listScope, readsContent, SEES, SEES_WORK, type Viewer } from '../access/index.ts';
import { countOpen } from '../comments/index.ts';
import { linkNames } from '../links/index.ts';
import { markOf } from '../revisions/index.ts';
import { knownRules, shownMetadata } from '../rules/index.ts';
import {
  type Branch,
  branchesOf,
  candidatesOf,
  type Filter,
  RANKED,
  readSearch,
  searchConditions,
  wantedWords,
} from './filter.ts';
import { fieldKinds, type Prepared, prepare, wayTo } from './prepare.ts';
import * as store from './store.ts';
import { STATE_WORDS } from './words.ts';

export { facetsOf } from './facets.ts';
export { foldCounts } from './storeCounts.ts';

type RegisterQuery = QueryOf<typeof api.find.register>;

const SORT: Record<RegisterQuery['sort'], { sql: (branch: Branch) => string; cast: string }> = {
  number: { sql: () => 'd.number', cast: 'text' },
  title: { sql: (branch) => branch.title, cast: 'text' },
  changed: { sql: () => 'd.changed_at', cast: 'timestamptz' },
  review: { sql: () => `coalesce(d.review_on, date '9999-12-31')`, cast: 'date' },
  effective: {
    sql: (branch) =>
      `coalesce((select p.from_at from periods p where p.revision_id = ${branch.revision} order by p.from_at desc limit 1), timestamptz '0001-01-01 00:00Z')`,
    cast: 'timestamptz',
  },
};

/** The register through a scope, a page at a time by key: the cost grows with the page, not with the register. */
export const registerPage = async (
  app: App,
  viewer: Viewer,
  query: RegisterQuery,
): Promise<AnswerOf<typeof api.find.register>> => {
  const prepared = await prepare(app, viewer, query);
  const { sql, cast } = SORT[query.sort];
  const after = query.after ? readCursor(query.after, query) : undefined;
  const [direction, beyond] = query.order === 'asc' ? ['asc', '>'] : ['desc', '<'];
  let bindings: Record<string, unknown> = {
    ...prepared.base,
    limit: query.limit,
    afterValue: after?.[0] ?? null,
    afterId: after?.[1] ?? null,
  };
  const parts = prepared.branches.map((branch) => {
    const conditions = prepared.where(branch);
    bindings = { ...bindings, ...conditions.bindings };
    const key = after
      ? ` and (${sql(branch)}, ${branch.revision}) ${beyond} (:afterValue::${cast}, :afterId::uuid)`
      : '';
    return `(select d.id as document_id, ${branch.revision} as revision_id, d.number, ${branch.title} as title, ${branch.label} as label, ${branch.state} as state, ${sql(branch)} as sort_key
      from ${branch.from} where ${conditions.where.join(' and ')}${key} order by ${sql(branch)} ${direction}, ${branch.revision} ${direction} limit :limit)`;
  });
  const page = `with ${prepared.candidates ? `${prepared.candidates}, ` : ''}x as materialized (select *, sort_key::text as sort_value from (${parts.join(' union all ')}) y order by sort_key ${direction}, revision_id ${direction} limit :limit)`;
  const found = await store.listPage(
    app.db,
    page,
    bindings,
    `x.sort_key ${direction}, x.revision_id ${direction}`,
    prepared.candidates ? {} : HOT,
  );
  const last = found.at(-1);
  const ids = found.map((row) => row.document_id);
  const [until, metadata, links, open] = await Promise.all([
    untilOf(app, found, query.on, prepared),
    shownMetadata(
      app.db,
      found.map((row) => ({ fields: prepared.names.types.get(row.type_id)?.shown ?? [], metadata: row.metadata })),
    ),
    linkNames(app.db, ids, prepared.base),
    countOpen(app.db, ids, prepared.base),
  ]);
  return {
    rows: found.map((row, i) => ({
      ...toRow(row, prepared, until.get(row.document_id) ?? [], metadata[i] ?? {}),
      links: links.get(row.document_id) ?? [],
      openComments: open.get(row.document_id) ?? 0,
    })),
    next:
      last && found.length === query.limit
        ? Buffer.from(JSON.stringify([last.sort_value, last.revision_id, query.sort, query.order])).toString(
            'base64url',
          )
        : null,
  };
};

/** The documents that a filter finds, by id; at most so many. */
export const idsOf = async (app: App, viewer: Viewer, filter: Filter, most: number): Promise<string[]> => {
  const prepared = await prepare(app, viewer, filter);
  let bindings: Record<string, unknown> = { ...prepared.base, most };
  const parts = prepared.branches.map((branch) => {
    const conditions = prepared.where(branch);
    bindings = { ...bindings, ...conditions.bindings };
    return `(select d.id from ${branch.from} where ${conditions.where.join(' and ')})`;
  });
  const candidates = prepared.candidates ? `with ${prepared.candidates} ` : '';
  return store.listIds(
    app.db,
    `${candidates}select distinct id from (${parts.join(' union all ')}) x limit :most`,
    bindings,
  );
};

const readCursor = (cursor: string, query: RegisterQuery): [string, string] => {
  try {
    const [value, id, sort, order] = JSON.parse(Buffer.from(cursor, 'base64url').toString('utf8')) as string[];
    if (sort === query.sort && order === query.order && typeof value === 'string' && /^[0-9a-f-]{36}$/.test(id ?? ''))
      return [value, id ?? ''];
  } catch {
    // Falls through to the refusal: whatever it was, it was not given out here.
  }
  throw refused('cursor_invalid');
};

const untilOf = async (app: App, found: store.ListRow[], on: string | undefined, { zone, today }: Prepared) => {
  const result = new Map<string, { label: string; time: string }[]>();
  if (!on || on > today) return result;
  for (const row of await store.listUntil(app.db, {
    documentIds: found.map((r) => r.document_id),
    begin: firstInstantOf(on, zone),
    end: endInstantOf(on, zone),
  })) {
    result.set(row.document_id, [
      ...(result.get(row.document_id) ?? []),
      { label: row.label, time: timeOf(row.to_at, zone) },
    ]);
  }
  return result;
};

const whereItStands = (
  row: store.ListRow,
  today: string,
  own: Readonly<Record<string, string>>,
): { where: string; overdue: boolean } => {
  const overdue = row.round?.due ? row.round.due < today : false;
  const state = own[row.state] ?? STATE_WORDS[row.state] ?? row.state;
  const words = row.own_state ? `${state}: ${row.own_state}` : state;
  if (row.held_up) return { where: `${words}, held up`, overdue: true };
  if (row.round)
    return {
      where: overdue
        ? `${words}, ${daysBetween(row.round.due ?? today, today)} days overdue`
        : `${words}, ${row.round.n} of ${row.round.of}`,
      overdue,
    };
  // What it waits for says more than how often it was checked in.
  if (row.state === 'draft')
    return { where: row.own_state ? words : `${words}, version ${row.version_count}`, overdue: false };
  if (row.state === 'scheduled')
    return {
      where: row.blocked_since ? 'Held' : `From ${row.planned_on ? dayInWords(row.planned_on) : ''}`,
      overdue: row.blocked_since !== null,
    };
  if (row.state === 'in force' && row.on_hold) return { where: 'On hold: do not use', overdue: true };
  return { where: words, overdue: false };
};

const toRow = (
  row: store.ListRow,
  { today, names, stateWords }: Prepared,
  until: { label: string; time: string }[],
  metadata: Record<string, string>,
): Omit<RegisterRow, 'links' | 'openComments'> => ({
  documentId: row.document_id,
  revisionId: row.revision_id,
  number: row.number,
  title: row.title,
  label: row.label,
  mark: markOf(row.state, row.on_hold),
  state: row.state,
  type: names.types.get(row.type_id)?.code ?? '',
  typeName: names.types.get(row.type_id)?.name ?? '',
  area: names.folders.get(names.folders.get(row.folder_id)?.areaId ?? '')?.name ?? '',
  folder: names.folders.get(row.folder_id)?.name ?? '',
  owner: row.owner,
  department: names.units.get(row.department_id ?? '') ?? null,
  plannedOn: row.planned_on,
  effectiveFrom: row.effective_from?.toISOString() ?? null,
  reviewOn: row.review_on,
  due: row.round?.due ?? null,
  changedAt: row.changed_at.toISOString(),
  checkout:
    row.out_person && row.out_since && !isReleased(row.state)
      ? { person: row.out_person, since: row.out_since.toISOString() }
      : null,
  ...whereItStands(row, today, stateWords),
  until,
  metadata,
});

/** The find line: a number typed in any usual form goes there, else titles, metadata and contents are searched with passages. */
export const find = async (
  app: App,
  viewer: Viewer,
  q: string,
  limit: number,
): Promise<AnswerOf<typeof api.find.find>> => {
  const text = q.trim();
  const { zone } = await app.organisation();
  const today = dayOf(app.clock(), zone);
  const scope = await listScope(app.db, viewer, today);
  const visible = `${SEES_WORK} or (${SEES} and d.public_state is not null)`;
  const guesses = [text, text.toUpperCase(), ...guessNumbers(await knownRules(app.db), text)];
  const isPartOfNumber = text.length >= 2 && !/[\s":]/.test(text);
  // Asked at once: most of the time goes into waiting for each.
  const [found, kinds, byNumber] = await Promise.all([
    store.findByNumbers(app.db, guesses, visible, { ...scope }),
    fieldKinds(app),
    isPartOfNumber ? store.listByPrefix(app.db, text.toUpperCase(), visible, { ...scope }) : [],
  ]);
  const exact = guesses.find((guess) => found.includes(guess));
  if (exact) return { goTo: exact, hits: [], capped: false };
  const search = readSearch(q, kinds);
  const hits = await searchHits(
    app,
    viewer,
    scope,
    search,
    limit,
    byNumber.map((d) => d.id),
    today,
  );
  return { goTo: null, hits: hits.map(toHit), capped: hits.length >= limit && limit < RANKED };
};

const searchHits = async (
  app: App,
  viewer: Viewer,
  scope: ListScope,
  search: ReturnType<typeof readSearch>,
  limit: number,
  byNumber: string[],
  today: string,
) => {
  const candidates = candidatesOf(search, {
    ranked: search.terms.every(
      (term) => !term.not && (term.kind === 'either' ? term.of : [term]).every(({ kind }) => kind !== 'field'),
    ),
    ...(await wayTo(app.db, search, scope)),
    shown: true,
  });
  const branches = branchesOf({ revisionScope: 'newest' }, scope, today);
  const queries = wantedWords(search).map(({ sql }) => sql);
  const [all, some] = [queries.join(' && '), queries.join(' || ')];
  const { zone } = await app.organisation();
  let bindings: Record<string, unknown> = { ...scope, limit, byNumber, on: null, viewEnd: null, zone, today };
  const parts = branches.map((branch) => {
    const conditions = searchConditions(search, branch, viewer.id);
    bindings = { ...bindings, ...conditions.bindings };
    const select = `select d.id as document_id, d.number, ${branch.title} as title, ${branch.label} as label, ${branch.state} as state, ${branch.revision} as revision_id from ${branch.from} where ${branch.where.join(' and ')}`;
    // Two statements, not one with OR: each then begins at its few rows instead of walking all documents.
    return [
      ...(conditions.where.length ? [`${select} and ${conditions.where.join(' and ')}`] : []),
      ...(byNumber.length ? [`${select} and d.id = any(:byNumber::uuid[])`] : []),
    ];
  });
  if (parts.flat().length === 0) return [];
  const tier = all
    ? `case when m.document_id = any(:byNumber::uuid[]) then 1 when to_tsvector('english', m.title) @@ (${all}) then 2 when r.search @@ (${all}) then 3 else 4 end`
    : `case when m.document_id = any(:byNumber::uuid[]) then 1 else 3 end`;
  // Unreadable text does not affect the rank either.
  const rank = all
    ? `ts_rank_cd(r.search, ${all}) + coalesce((select max(ts_rank_cd(t.words, ${all})) from version_files f join texts t on t.sha256 = f.sha256 join documents d on d.id = r.document_id where f.version_id = r.latest_version_id and ${readsContent('r.state')}), 0)`
    : '0';
  // Passages are made for the shown rows only: on all hits they would take seconds.
  const passage = all
    ? `(select ts_headline('english', left(t.text, 200000), ${some}, 'MaxFragments=2,MaxWords=22,MinWords=9,StartSel=⟦,StopSel=⟧,FragmentDelimiter= … ') from version_files f join texts t on t.sha256 = f.sha256 join documents d on d.id = s.document_id where f.version_id = s.latest_version_id and t.words @@ (${some}) and ${readsContent('s.state')} limit 1)`
    : 'null';
  return store.listHits(
    app.db,
    `with ${candidates ? `${candidates}, ` : ''}m as (select * from (${parts.flat().join(' union ')}) y order by (y.document_id = any(:byNumber::uuid[])) desc limit ${RANKED}),
     s as materialized (select m.*, r.latest_version_id, ${tier} as tier, ${rank} as rank from m join revisions r on r.id = m.revision_id order by tier, (m.state = 'in force') desc, rank desc, m.number limit :limit)
      select s.document_id, s.number, s.title, s.label, s.state, s.tier, (select d.hold is not null from documents d where d.id = s.document_id) as on_hold, ${passage} as passage from s order by s.tier, (s.state = 'in force') desc, s.rank desc, s.number`,
    bindings,
  );
};

const WHERE = ['number', 'number', 'title', 'metadata', 'contents'] as const;
const toHit = (hit: store.HitRow) => ({
  documentId: hit.document_id,
  number: hit.number,
  title: hit.title,
  label: hit.label,
  mark: markOf(hit.state, hit.on_hold),
  state: hit.state,
  where: WHERE[hit.tier] ?? 'contents',
  passage: hit.passage ?? '',
});
