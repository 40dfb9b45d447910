// How many documents have each value of a filter. Without words, owner or another day the counts that triggers
// keep (migration 0006) are added up; else the rows that the filter leaves are counted.
import { addDays } from '@kanonos/core';
import { type Db, HOT, rows } from '../../platform/db/connect.ts';
import { SEES, SEES_WORK } from '../access/index.ts';
import { type Branch, conditionsOf, type Dimension, listOf } from './filter.ts';
import type { Prepared } from './prepare.ts';

export type Counted = { dimension: Dimension | 'total'; value: string | null; n: number };
type Source = { sql: string; bindings: Record<string, unknown> };

/** Dimensions whose values are counted from one pass; each without its own picks, so that its other values stay reachable. */
const PICKS = ['state', 'area', 'type', 'department'] as const;

const pickedBy = ({ filter }: Prepared) => {
  const picks = (value: string | undefined) => (value === undefined ? null : listOf(value));
  return {
    pickedStates: picks(filter.state),
    pickedAreas: picks(filter.area),
    pickedTypes: picks(filter.type),
    pickedDepartments: picks(filter.department),
  };
};

/** Counts of a source grouped by all dimensions, with whether each fits its picks; `more` is one more column to group by. */
const grouped = (more = '') => `
  select y.state, f.area_id, t.code as type, y.department_id${more && `, ${more}`}, sum(y.n)::int as n,
    coalesce(y.state = any(:pickedStates::text[]), :pickedStates::text[] is null) as state_ok,
    coalesce(f.area_id = any(:pickedAreas::uuid[]), :pickedAreas::uuid[] is null) as area_ok,
    coalesce(t.code = any(:pickedTypes::text[]), :pickedTypes::text[] is null) as type_ok,
    coalesce(y.department_id = any(:pickedDepartments::uuid[]), :pickedDepartments::uuid[] is null) as department_ok
  from y join folders f on f.id = y.folder_id join types t on t.id = y.type_id group by 1, 2, 3, 4${more && ', 5'}`;

const fitting = (...left: string[]) =>
  PICKS.filter((pick) => !left.includes(pick))
    .map((pick) => `${pick}_ok`)
    .join(' and ');

/** All counts of a filter, and their total. */
export const countFacets = async (db: Db, prepared: Prepared): Promise<Counted[]> => {
  const ofDocuments = once(() => listCorrections(db, dueRevisionScope(prepared), 'document'));
  const counted = await Promise.all([countPicks(db, prepared, ofDocuments), countReviews(db, prepared, ofDocuments)]);
  return counted.flat();
};

/** Among all revisions the one in force is what falls due for review, also while a newer one is in work. */
const dueRevisionScope = (prepared: Prepared): Prepared =>
  prepared.filter.revisionScope === 'all revisions'
    ? { ...prepared, filter: { ...prepared.filter, revisionScope: 'in force' } }
    : prepared;

type Corrections = () => Promise<Correction[]>;
const once = <T>(make: () => T): (() => T) => {
  let made: { value: T } | undefined;
  return () => {
    made ??= { value: make() };
    return made.value;
  };
};

/** Counts per state, area, type and department. */
const countPicks = async (db: Db, prepared: Prepared, ofDocuments: Corrections): Promise<Counted[]> => {
  const revisions = prepared.filter.revisionScope === 'all revisions' && !seesInForce(prepared);
  const kept = isKept(prepared);
  const source = !kept
    ? rowSource(prepared)
    : revisions
      ? keptSource(prepared, 'revision', await listCorrections(db, prepared, 'revision'))
      : keptSource(prepared, 'document', await ofDocuments());
  const sql = `with ${source.sql}, g as materialized (${grouped()})
    select 'total' as dimension, null as value, coalesce(sum(n), 0)::int as n from g where ${fitting()}
    union all select 'state', state, sum(n)::int from g where ${fitting('state')} group by 2
    union all select 'area', area_id::text, sum(n)::int from g where ${fitting('area')} group by 2
    union all select 'type', type, sum(n)::int from g where ${fitting('type')} group by 2
    union all select 'department', department_id::text, sum(n)::int from g where ${fitting('department')} group by 2`;
  return rows<Counted>(db, sql, { ...prepared.base, ...source.bindings, ...pickedBy(prepared) }, kept ? HOT : {});
};

/** Counts of what is overdue for review, and due within 30 and 90 days. */
const countReviews = async (db: Db, prepared: Prepared, ofDocuments: Corrections): Promise<Counted[]> => {
  const { today } = prepared;
  const bounds = { overdue: addDays(today, -1), '30': addDays(today, 30), '90': addDays(today, 90) };
  const kept = isKept({ ...prepared, filter: { ...prepared.filter, review: undefined } });
  if (!kept) {
    const days = await countReviewDays(db, prepared, [{ from: '0001-01-01', to: bounds['90'] }]);
    return Object.entries(bounds).map(([value, to]) => ({
      dimension: 'review' as const,
      value,
      n: sum(days, (day) => day <= to),
    }));
  }
  // Whole months are added up from the kept counts. Of a month in which a bound lies, the shorter part is counted by days
  // and added to the months before it, or taken from those up to it.
  const parts = Object.entries(bounds).map(([value, to]) => {
    const early = Number(to.slice(8)) <= 15;
    const [first, next] = [monthOf(to), monthOf(addDays(monthOf(to), 31))];
    return early
      ? { value, before: first, from: first, to, sign: 1 }
      : { value, before: next, from: addDays(to, 1), to: addDays(next, -1), sign: -1 };
  });
  const last =
    parts
      .map((part) => part.before)
      .sort()
      .at(-1) ?? today;
  const [months, days] = await Promise.all([
    ofDocuments().then((corrections) => countReviewMonths(db, dueRevisionScope(prepared), last, corrections)),
    countReviewDays(db, prepared, parts),
  ]);
  return parts.map(({ value, before, from, to, sign }) => ({
    dimension: 'review' as const,
    value,
    n: sum(months, (month) => month < before) + sign * sum(days, (day) => day >= from && day <= to),
  }));
};

type OfDay = { day: string; n: number };
const sum = (counts: OfDay[], fits: (day: string) => boolean) =>
  counts.reduce((all, { day, n }) => (fits(day) ? all + n : all), 0);
const monthOf = (day: string) => `${day.slice(0, 8)}01`;

const countReviewMonths = (db: Db, prepared: Prepared, before: string, corrections: Correction[]): Promise<OfDay[]> => {
  const source = keptSource(prepared, 'review', corrections);
  return rows<OfDay>(
    db,
    `with ${source.sql}, g as (${grouped('y.review_month')})
     select review_month as day, sum(n)::int as n from g where ${fitting()} and state = 'in force' and review_month < :before::date group by 1`,
    { ...prepared.base, ...source.bindings, ...pickedBy(prepared), before },
    HOT,
  );
};

/** A select for each range, not one with OR: each is then read from documents_review alone. */
const countReviewDays = (db: Db, prepared: Prepared, ranges: { from: string; to: string }[]): Promise<OfDay[]> => {
  let bindings: Record<string, unknown> = { ...prepared.base };
  const parts = prepared.branches.flatMap((branch) => {
    const conditions = prepared.where(branch, ['review', ...(prepared.filter.state ? (['state'] as const) : [])]);
    // Documents due for review are in force: another picked state matches none.
    const inForce = !prepared.filter.state || prepared.filter.state.split('~').includes('in force');
    if (!inForce) return [];
    bindings = { ...bindings, ...conditions.bindings };
    return ranges.map((range, i) => {
      bindings = { ...bindings, [`from${i}`]: range.from, [`to${i}`]: range.to };
      return `select d.review_on from ${branch.from} where ${conditions.where.join(' and ')} and ${branch.state} = 'in force' and d.review_on between :from${i}::date and :to${i}::date`;
    });
  });
  if (parts.length === 0) return Promise.resolve([]);
  const sql = `with ${prepared.candidates ? `${prepared.candidates}, ` : ''}y as (${parts.join(' union all ')}) select review_on as day, count(*)::int as n from y group by 1`;
  return rows<OfDay>(db, sql, bindings);
};

/** Folds differences together into one row per place; only rows that it removed are written again, so two may run at once. */
export const foldCounts = (db: Db): Promise<unknown> =>
  rows(
    db,
    `with gone as (
       delete from document_counts where ctid in (
         select ctid from (
           select ctid, count(*) over (partition by revision_scope, folder_id, type_id, department_id, work_state, public_state, review_month) as of_place from document_counts) x
         where of_place > 1)
       returning *)
     insert into document_counts
     select revision_scope, folder_id, type_id, department_id, work_state, public_state, sum(n), review_month from gone
     group by 1, 2, 3, 4, 5, 6, 8 having sum(n) <> 0`,
  );

/** Whether the kept counts answer a filter: they know neither words nor owners, no other day and no shortcuts. */
const isKept = ({ filter, today, shortcuts }: Prepared): boolean =>
  shortcuts.length === 0 && !filter.q.trim() && !filter.owner && !filter.review && (!filter.on || filter.on === today);

const rowSource = (prepared: Prepared): Source => {
  let bindings: Record<string, unknown> = {};
  const parts = prepared.branches.map((branch) => {
    const conditions = prepared.where(branch, PICKS);
    bindings = { ...bindings, ...conditions.bindings };
    return `select ${branch.state} as state, d.folder_id, d.type_id, d.department_id, 1 as n from ${branch.from} where ${conditions.where.join(' and ')}`;
  });
  return {
    sql: `${prepared.candidates ? `${prepared.candidates}, ` : ''}y as (${parts.join(' union all ')})`,
    bindings,
  };
};

type RevisionScope = 'document' | 'revision' | 'review';
type Correction = { state: string; folder_id: string; type_id: string; department_id: string | null; n: number };

/** The scope of a filter as the counts know it: who looks at what is in force looks at documents. */
const seesInForce = ({ filter }: Prepared) => filter.revisionScope === 'in force' || filter.on !== undefined;
const placesOf = (prepared: Prepared, branch: Branch) =>
  conditionsOf(prepared.filter, branch, prepared.today, [...PICKS, 'review']);

/**
 * By how much the kept counts of a viewer's folders are too high or too low: single documents that the viewer sees more or less
 * of than their folder says. Owned ones, those with an assignment of the viewer, those with rights of their own.
 */
const listCorrections = (db: Db, prepared: Prepared, revisionScope: 'document' | 'revision'): Promise<Correction[]> => {
  const { scope, branches } = prepared;
  const inForce = seesInForce(prepared);
  const place = placesOf(prepared, branches[0] as Branch);
  const ofRevision = revisionScope === 'revision';
  const [work, released] = ofRevision ? ['r.state', 'released_state(r.state)'] : ['d.newest_state', 'd.public_state'];
  const shown = (works: string, sees: string) =>
    inForce
      ? `case when ${sees} and public_state = 'in force' then public_state end`
      : `case when ${works} then work_state when ${sees} then public_state end`;
  const part = (works: string, sees: string, n: number) =>
    `select ${shown(works, sees)} as state, folder_id, type_id, department_id, review_month, ${n} as n from e`;
  return rows<Correction>(
    db,
    `with e as materialized (
       select d.folder_id, d.type_id, d.department_id, ${ofRevision ? 'null::date' : `date_trunc('month', d.review_on)::date`} as review_month,
         ${work} as work_state, ${released} as public_state, ${SEES_WORK} as works, ${SEES} as sees,
         d.folder_id = any(:workFolders::uuid[]) as place_works, d.folder_id = any(:seeFolders::uuid[]) as place_sees
       from documents d ${ofRevision ? 'join revisions r on r.document_id = d.id' : ''}
       where ${['d.removed_at is null', ...place.where].join(' and ')} and d.id in (
         select o.id from documents o where o.owner_id = :me and o.folder_id <> all(:workFolders::uuid[])
         union all select unnest(:exceptional::uuid[])))
     select state, folder_id, type_id, department_id, review_month, sum(n)::int as n
     from (${part('place_works', 'place_sees', -1)} union all ${part('works', 'sees', 1)}) x
     where state is not null group by 1, 2, 3, 4, 5 having sum(n) <> 0`,
    {
      ...prepared.base,
      ...place.bindings,
      exceptional: [
        ...scope.ownEntryDocuments,
        ...scope.workDocuments,
        ...scope.seeDocuments,
        ...scope.withheldDocuments,
      ],
    },
    HOT,
  );
};

/** The kept counts of the folders that a viewer sees, with what puts them right. */
const keptSource = (prepared: Prepared, revisionScope: RevisionScope, corrections: Correction[]): Source => {
  const inForce = seesInForce(prepared);
  const place = placesOf(prepared, prepared.branches[0] as Branch);
  // Joined with the folders, not compared with a list of them: the plan is made once and the list is long.
  const counts = (state: string, folders: string) =>
    `select ${state} as state, d.folder_id, d.type_id, d.department_id, d.review_month, d.n from document_counts d join unnest(:${folders}::uuid[]) w(id) on w.id = d.folder_id where ${[`d.revision_scope = '${revisionScope}'`, ...place.where].join(' and ')}`;
  const folders = inForce
    ? `${counts('d.public_state', 'seeFolders')} and d.public_state = 'in force'`
    : `${counts('d.work_state', 'workFolders')} union all ${counts('d.public_state', 'readFolders')} and d.public_state is not null`;
  const corrected =
    'select * from jsonb_to_recordset(:corrections::jsonb) as x(state text, folder_id uuid, type_id uuid, department_id uuid, review_month date, n int)';
  return {
    sql: `y as (${folders} union all ${corrected})`,
    bindings: {
      ...place.bindings,
      corrections: JSON.stringify(corrections),
    },
  };
};
