import { addDays, endInstantOf, parseSearch, type Search, type SearchTerm } from '@kanonos/core';
import { RefusalError } from '../../platform/refused.ts';
import { type ListScope, readsContent, SEES, SEES_WORK } from '../access/index.ts';

export type Filter = {
  revisionScope: 'in force' | 'newest' | 'all revisions';
  q: string;
  state?: string | undefined;
  area?: string | undefined;
  type?: string | undefined;
  department?: string | undefined;
  owner?: string | undefined;
  review?: 'overdue' | '30' | '90' | undefined;
  folder?: string | undefined;
  reach: 'here' | 'below' | 'everywhere';
  on?: string | undefined;
};
export type Dimension = 'state' | 'area' | 'type' | 'department' | 'review';

/** One way in which documents are seen: as work, or as everyone sees them. Lists are the union of both. */
export type Branch = { from: string; where: string[]; state: string; label: string; title: string; revision: string };

const SCHEDULED = `(select r.id, r.label, r.title from revisions r where r.document_id = d.id and r.state = 'scheduled' and r.planned_on <= :on::date)`;

/** The branches of a scope for a scope. Who sees everything they see as work too has one branch only. */
export const branchesOf = (filter: Pick<Filter, 'revisionScope' | 'on'>, scope: ListScope, today: string): Branch[] => {
  const alive = 'd.removed_at is null';
  if (filter.on && filter.on !== today) {
    // Periods do not overlap: at most one holds the last instant of the day.
    const inForce =
      'documents d join periods e on e.document_id = d.id and e.from_at < :viewEnd and (e.to_at is null or e.to_at >= :viewEnd)';
    if (filter.on < today)
      return [
        {
          from: inForce,
          where: [alive, SEES],
          state: `'in force'`,
          label: 'e.label',
          title: '(select w.title from revisions w where w.id = e.revision_id)',
          revision: 'e.revision_id',
        },
      ];
    const notWithdrawn = `(d.withdraw_on is null or d.withdraw_on > :on::date or not ${SEES_WORK})`;
    return [
      {
        from: `documents d join lateral ${SCHEDULED} r on true`,
        where: [alive, SEES_WORK],
        state: `'in force'`,
        label: 'r.label',
        title: 'r.title',
        revision: 'r.id',
      },
      {
        from: 'documents d',
        where: [alive, SEES, `d.public_state = 'in force'`, notWithdrawn, `not (${SEES_WORK} and exists ${SCHEDULED})`],
        state: 'd.public_state',
        label: 'd.public_label',
        title: 'd.public_title',
        revision: 'd.public_revision_id',
      },
    ];
  }
  const asPublic: Branch = {
    from: 'documents d',
    where: [alive, SEES],
    state: 'd.public_state',
    label: 'd.public_label',
    title: 'd.public_title',
    revision: 'd.public_revision_id',
  };
  if (filter.revisionScope === 'in force' || filter.on)
    return [{ ...asPublic, where: [...asPublic.where, `d.public_state = 'in force'`] }];
  const onlyWork = scope.seeDocuments.length === 0 && scope.readFolders.length === 0;
  if (filter.revisionScope === 'newest') {
    const asWork: Branch = {
      from: 'documents d',
      where: [alive, SEES_WORK],
      state: 'd.newest_state',
      label: 'd.newest_label',
      title: 'd.newest_title',
      revision: 'd.newest_revision_id',
    };
    return onlyWork
      ? [asWork]
      : [asWork, { ...asPublic, where: [...asPublic.where, 'd.public_state is not null', `not ${SEES_WORK}`] }];
  }
  const all = {
    from: 'documents d join revisions r on r.document_id = d.id',
    state: 'r.state',
    label: 'r.label',
    title: 'r.title',
    revision: 'r.id',
  };
  const works: Branch = { ...all, where: [alive, SEES_WORK] };
  return onlyWork
    ? [works]
    : [works, { ...all, where: [alive, SEES, `r.state in ('in force','superseded','withdrawn')`, `not ${SEES_WORK}`] }];
};

/** The picks of a dimension as an address writes them. */
export const listOf = (value: string) => value.split('~').filter(Boolean).slice(0, 100);

/** Conditions of a filter on one branch, without those of the dimensions whose own counts are wanted. */
export const conditionsOf = (
  filter: Filter,
  branch: Branch,
  today: string,
  without: readonly Dimension[] = [],
  /** Documents that are shown in the folder of the filter by a shortcut. */
  shortcuts: readonly string[] = [],
): { where: string[]; bindings: Record<string, unknown> } => {
  const where: string[] = [];
  const bindings: Record<string, unknown> = {};
  const add = (dimension: Dimension | undefined, condition: string, values: Record<string, unknown>) => {
    if (dimension && without.includes(dimension)) return;
    where.push(condition);
    Object.assign(bindings, values);
  };
  if (filter.state) add('state', `${branch.state} = any(:states::text[])`, { states: listOf(filter.state) });
  if (filter.area)
    add('area', 'd.folder_id in (select id from folders where area_id = any(:areas::uuid[]))', {
      areas: listOf(filter.area),
    });
  if (filter.type)
    add('type', 'd.type_id in (select id from types where code = any(:types::text[]))', { types: listOf(filter.type) });
  if (filter.department)
    add('department', 'd.department_id = any(:departments::uuid[])', { departments: listOf(filter.department) });
  if (filter.owner) add(undefined, 'd.owner_id = any(:owners::uuid[])', { owners: listOf(filter.owner) });
  if (filter.review)
    add('review', `${branch.state} = 'in force' and d.review_on <= :reviewBy::date`, {
      reviewBy: filter.review === 'overdue' ? addDays(today, -1) : addDays(today, Number(filter.review)),
    });
  const shown = shortcuts.length ? ' or d.id = any(:shortcuts::uuid[])' : '';
  if (filter.folder && filter.reach === 'here')
    add(undefined, `(d.folder_id = :folder${shown})`, { folder: filter.folder, shortcuts });
  if (filter.folder && filter.reach === 'below')
    add(undefined, `(d.folder_id in (select id from folders where path @> array[:folder]::uuid[])${shown})`, {
      folder: filter.folder,
      shortcuts,
    });
  return { where, bindings };
};

/** Reads the words of a search; a syntax error is refused with its position. */
export const readSearch = (q: string, metadata: Record<string, 'text' | 'date' | 'number' | 'person'>): Search => {
  const parsed = parseSearch(q, metadata);
  if (!parsed.ok) throw new RefusalError(parsed.refusals);
  return parsed.value;
};

type Query = { sql: string; bindings: Record<string, string> };

/** A term as a full-text query of PostgreSQL, of alternatives any; undefined for fields. */
const tsQuery = (term: SearchTerm, name: string): Query | undefined => {
  if (term.kind === 'either') {
    const sides = term.of.flatMap((side, i) => tsQuery(side, `${name}or${i}`) ?? []);
    if (sides.length === 0) return undefined;
    return {
      sql: `(${sides.map(({ sql }) => sql).join(' || ')})`,
      bindings: Object.assign({}, ...sides.map(({ bindings }) => bindings)),
    };
  }
  const bindings = (value: string) => ({ [name]: value });
  if (term.kind === 'phrase')
    return { sql: `phraseto_tsquery('english', :${name}::text)`, bindings: bindings(term.text) };
  if (term.kind !== 'word') return undefined;
  const words = term.text.match(/[\p{L}\p{N}]+/gu) ?? [];
  if (words.length === 0) return undefined;
  if (!term.prefix) return { sql: `plainto_tsquery('english', :${name}::text)`, bindings: bindings(term.text) };
  return {
    sql: `(to_tsquery('english', :${name}::text) || to_tsquery('simple', :${name}::text))`,
    bindings: bindings(words.map((word, i) => (i === words.length - 1 ? `${word}:*` : word)).join(' & ')),
  };
};

/** The words that must occur as full-text queries, one for each term that has any. */
export const wantedWords = (search: Search): Query[] =>
  search.terms.flatMap((term, i) => (term.not ? [] : (tsQuery(term, `term${i}`) ?? [])));

/** Conditions for the terms of a search on a branch: words in title, metadata or contents, fields by part. */
export const searchConditions = (
  search: Search,
  branch: Branch,
  viewerId: string,
): { where: string[]; bindings: Record<string, unknown> } => {
  const where: string[] = [];
  const bindings: Record<string, unknown> = { viewerId };
  for (const [i, term] of search.terms.entries()) {
    const name = `term${i}`;
    const sides = term.kind === 'either' ? term.of : [term];
    const conditions = sides.flatMap((side, k) => {
      if (side.kind !== 'field') return [];
      const own = `${name}side${k}`;
      bindings[own] = side.compare === ':' ? `%${side.value.replace(/[\\%_]/g, '\\$&')}%` : side.value;
      bindings[`${own}Key`] = side.field;
      bindings[`${own}Value`] = side.value;
      return [`${side.not ? 'not ' : ''}(${fieldCondition(side, own, branch)})`];
    });
    if (conditions.length > 0) where.push(`(${conditions.join(' or ')})`);
    const query = term.not ? tsQuery(term, name) : undefined;
    if (!query) continue;
    Object.assign(bindings, query.bindings);
    where.push(
      `not exists (select 1 from revisions w left join version_files vf on vf.version_id = w.latest_version_id left join texts t on t.sha256 = vf.sha256 where w.id = ${branch.revision} and (w.search @@ ${query.sql} or (t.words @@ ${query.sql} and ${readsContent('w.state')})))`,
    );
  }
  const wanted = wantedWords(search);
  Object.assign(bindings, ...wanted.map((query) => query.bindings));
  if (wanted.length > 0) where.push(`${branch.revision} in (select id from candidates)`);
  return { where, bindings };
};

/** How many hits are ranked: ranking is linear in hits. The cap comes after rights and filters, never before. */
export const RANKED = 2000;
/** A bound on hits that are only filtered and counted. */
const MOST_HITS = 50_000;

/** How candidates are looked for. */
export type Looking = {
  /** Only what was ranked is needed: no filter follows that could leave nothing of it. */
  ranked: boolean;
  /** All hits are few, whoever may see them: rights are then looked up for them, and nothing is cut off. */
  rare: boolean;
  /** The scope sees few documents: it is cheaper to look at all of them than at all hits. */
  narrow: boolean;
  /** Only the newest and the public revision of each document are asked for. */
  shown: boolean;
};

/** A search for whether its words occur seldom: in no more texts and in no more titles and metadata than the limit. */
export const rarity = (search: Search): { sql: string; bindings: Record<string, unknown> } | undefined => {
  const wanted = wantedWords(search);
  if (wanted.length === 0) return undefined;
  const queries = wanted.map(({ sql }) => sql);
  const bindings = Object.assign({ limit: RANKED + 1 }, ...wanted.map((query) => query.bindings));
  return {
    bindings,
    sql: `select (select count(*) from (select 1 from texts where words @@ (${queries.join(' && ')}) limit :limit) t)::int as texts,
      (select count(*) from (select 1 from revisions where search @@ (${queries.join(' || ')}) limit :limit) r)::int as metadata`,
  };
};

/**
 * Revisions that the scope may see in which all words occur: all in content that it may read, or some in title and metadata and the others
 * in such content. Rights come before the cap, so that who sees little finds it among any number of hits.
 */
export const candidatesOf = (search: Search, { ranked, rare, narrow, shown }: Looking): string | undefined => {
  const queries = wantedWords(search).map(({ sql }) => sql);
  if (queries.length === 0) return undefined;
  const [all, some] = [queries.join(' && '), queries.join(' || ')];
  const most = ranked ? RANKED : MOST_HITS;
  const released = `r.state in ('in force', 'superseded', 'withdrawn')`;
  const seen = `d.removed_at is null and (${SEES_WORK} or (${SEES} and ${released}))${shown ? ' and (r.id = d.newest_revision_id or r.id = d.public_revision_id)' : ''}`;
  const content = readsContent('r.state');
  const inAll = `(r.search || case when ${content} then coalesce(t.words, ''::tsvector) else ''::tsvector end) @@ (${all})`;
  const texts =
    'left join version_files f on f.version_id = r.latest_version_id left join texts t on t.sha256 = f.sha256';
  if (rare)
    return `of_texts as materialized (select sha256 from texts where words @@ (${all})),
      of_metadata as materialized (select id from revisions where search @@ (${some})),
      candidates as materialized (
        select r.id from of_texts t join version_files f on f.sha256 = t.sha256 join versions v on v.id = f.version_id
          join revisions r on r.id = v.revision_id and r.latest_version_id = v.id join documents d on d.id = r.document_id
          where ${seen} and ${content}
        union select r.id from of_metadata h join revisions r on r.id = h.id join documents d on d.id = r.document_id ${texts}
          where ${seen} and ${inAll})`;
  if (narrow)
    return `candidates as materialized (
      select r.id from documents d join revisions r on r.document_id = d.id ${texts} where ${seen} and ${inAll} limit ${most})`;
  return `candidates as materialized (
    (select r.id from texts t join version_files f on f.sha256 = t.sha256 join versions v on v.id = f.version_id
       join revisions r on r.id = v.revision_id and r.latest_version_id = v.id join documents d on d.id = r.document_id
     where t.words @@ (${all}) and ${seen} and ${content} limit ${most})
    union (select r.id from revisions r join documents d on d.id = r.document_id ${texts}
     where r.search @@ (${some}) and ${seen} and ${inAll} limit ${most}))`;
};

const fieldCondition = (term: Extract<SearchTerm, { kind: 'field' }>, name: string, branch: Branch): string => {
  const person = (column: string) =>
    term.value === 'me'
      ? `${column} = :viewerId`
      : `${column} in (select id from people where name ilike :${name} or sign_in_name ilike :${name})`;
  // What is a code means that code: `type:WIN` finds work instructions, and no drawings for the letters in their name.
  const byCode = (table: 'types' | 'units') =>
    `select id from ${table} where upper(code) = upper(:${name}Value)
     union select id from ${table} where (name ilike :${name} or code ilike :${name}) and not exists (select 1 from ${table} where upper(code) = upper(:${name}Value))`;
  const date = (column: string) =>
    term.compare === ':'
      ? `to_char(${column}, 'YYYY-MM-DD') ilike :${name}`
      : `${column}::date ${term.compare} :${name}::date`;
  // The day of an instant is that of the organisation.
  const instant = (column: string) => date(`(${column} at time zone :zone)`);
  switch (term.field) {
    case 'number':
      return `d.number ilike :${name}`;
    case 'title':
      return `${branch.title} ilike :${name}`;
    case 'type':
      return `d.type_id in (${byCode('types')})`;
    case 'folder':
      return `d.folder_id in (select id from folders where name ilike :${name})`;
    case 'area':
      return `d.folder_id in (select f.id from folders f join folders a on a.id = f.area_id where a.name ilike :${name})`;
    case 'department':
      return `d.department_id in (${byCode('units')})`;
    case 'owner':
      return person('d.owner_id');
    case 'author':
      return `exists (select 1 from versions v where v.revision_id = ${branch.revision} and ${person('v.by_id')})`;
    case 'state':
      return term.value === 'overdue'
        ? `exists (select 1 from rounds u join steps s on s.round_id = u.id where u.revision_id = ${branch.revision} and u.state = 'running' and u.leads_to = 'release' and s.state = 'open' and s.due_on < :today::date)`
        : term.value.toLowerCase() === 'on hold'
          ? `${branch.state} = 'in force' and d.hold is not null`
          : `(${branch.state} ilike :${name} or ${branch.revision} in (select id from revisions where own_state ilike :${name}))`;
    case 'keyword':
      return `exists (select 1 from unnest(d.keywords) k where k ilike :${name})`;
    case 'item':
      return `exists (select 1 from links l where l.document_id = d.id and l.ended_at is null and l.item is not null
        and (lower(l.item->>'code') = lower(:${name}Value) or l.item->>'name' ilike :${name} or l.item->>'kind' ilike :${name}))`;
    case 'parent':
      return `d.parent_id in (select id from documents where number ilike :${name})`;
    case 'applies':
      return `exists (select 1 from units u where u.kind = 'site' and u.code = any(d.sites) and (u.code ilike :${name} or u.name ilike :${name}))`;
    case 'kept':
      return `d.location ilike :${name}`;
    case 'confidentiality':
      return `d.confidentiality ilike :${name}`;
    case 'sharing':
      return `d.sharing ilike :${name}`;
    case 'check':
      return date('d.origin_check_on');
    case 'missing':
      return `exists (select 1 from types t cross join jsonb_array_elements(t.fields) k
        where t.id = d.type_id and (k->>'key' = :${name}Value or (:${name}Value = 'mandatory' and (k->>'mandatory')::boolean))
          and not jsonb_exists(d.metadata, k->>'key') and not exists (select 1 from revisions w where w.id = ${branch.revision} and jsonb_exists(w.metadata, k->>'key')))`;
    case 'due':
      return date('d.review_on');
    case 'effective':
      return instant(
        `(select p.from_at from periods p where p.revision_id = ${branch.revision} order by p.from_at desc limit 1)`,
      );
    case 'changed':
      return instant('d.changed_at');
    default: {
      const fieldValue = `(select coalesce(w.metadata->>:${name}Key, d.metadata->>:${name}Key) from revisions w where w.id = ${branch.revision})`;
      return term.compare === ':'
        ? `${fieldValue} ilike :${name}`
        : /^-?[\d.]+$/.test(term.value)
          ? `(${fieldValue})::numeric ${term.compare} :${name}Value::numeric`
          : `${fieldValue} ${term.compare} :${name}Value`;
    }
  }
};

/** The instant at which a view of a day looks. */
export const viewEnd = (day: string | undefined, zone: string): Date | null => (day ? endInstantOf(day, zone) : null);
