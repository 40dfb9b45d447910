import { addDays } from '@kanonos/core';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { facetsOf, foldCounts, registerPage } from '../features/find/service.ts';
import { setRequirement } from '../features/reading/service.ts';
import { withdraw } from '../features/release/withdraw.ts';
import { rows } from '../platform/db/connect.ts';
import { openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
const TODAY = '2026-11-25';

/** An organisation in which every reason to see more or less of a document than its folder says occurs. */
beforeAll(async () => {
  organisation = await openOrganisation();
  const docs: { id: string; number: string }[] = [];
  for (let i = 0; i < 12; i++)
    docs.push(
      await organisation.register(i % 2 ? 'author' : 'author2', {
        type: i % 5 === 4 ? 'TWO' : 'PRO',
        folder: ['1', '1/a', '2'][i % 3] as string,
        title: `Listed ${i}`,
        owner: i % 4 === 3 && i > 3 ? 'reader' : 'owner',
      }),
    );
  const numberOf = (i: number) => docs[i]?.number ?? '';
  for (const i of [0, 1, 2, 3]) await organisation.toInForce(numberOf(i), i % 2 ? 'author' : 'author2');
  await organisation.submitAndReview(numberOf(5));
  await organisation.revise('author2', numberOf(0), { reason: 'Trial' });
  await withdraw(organisation.app, await organisation.as('controller'), numberOf(1), {
    seen: '*',
    reason: 'No longer done',
    on: null,
  });
  await setRequirement(organisation.app, await organisation.as('controller'), numberOf(2), {
    everyone: false,
    unitIds: [],
    personIds: [organisation.ids.stranger ?? ''],
    exceptPersonIds: [],
    reason: 'Named',
    rowVersion: null,
    kind: 'read and sign',
    instructions: '',
    workingDays: 5,
    newJoinerDays: 5,
    perChange: {},
    beforeInForce: false,
  });
  const grant = (document: string, person: string, rights: string[], withheld: boolean) =>
    rows(
      organisation.app.db,
      `insert into grants (id, document_id, subject_kind, subject_id, rights, withheld) values (gen_random_uuid(), :document, 'person', :person, :rights::text[], :withheld)`,
      { document, person, rights, withheld },
    );
  await grant(docs[2]?.id ?? '', organisation.ids.reader ?? '', [], true);
  await grant(docs[7]?.id ?? '', organisation.ids.reader2 ?? '', ['read work'], false);
  await grant(docs[6]?.id ?? '', organisation.ids.authority ?? '', ['read'], false);
  const due = [-400, -1, 0, 20, 30, 31, 60, 90, 91, 300].map((days) => addDays(TODAY, days));
  for (const [i, doc] of docs.entries())
    await rows(organisation.app.db, 'update documents set review_on = :on, metadata = metadata where id = :id', {
      on: due[i % due.length],
      id: doc.id,
    });
  await rows(organisation.app.db, 'update documents set removed_at = now() where id = :id', { id: docs[11]?.id });
  await rows(organisation.app.db, 'update documents set folder_id = :folder where id = :id', {
    folder: organisation.folders.get('closed'),
    id: docs[10]?.id,
  });
});
afterAll(() => organisation.close());

type Filter = Parameters<typeof facetsOf>[2];
const base: Filter & { sort: 'number'; order: 'asc'; limit: number } = {
  revisionScope: 'newest',
  q: '',
  reach: 'everywhere',
  sort: 'number',
  order: 'asc',
  limit: 5,
};

const listed = async (person: string, filter: Filter) => {
  const viewer = await organisation.as(person);
  const all: Awaited<ReturnType<typeof registerPage>>['rows'] = [];
  for (let after: string | undefined; ; ) {
    const page = await registerPage(organisation.app, viewer, { ...base, ...filter, after });
    all.push(...page.rows);
    if (!page.next) return all;
    after = page.next;
  }
};

const tally = (values: (string | null)[]) =>
  Object.fromEntries(
    [...new Set(values)]
      .filter((value): value is string => value !== null)
      .sort()
      .map((value) => [value, values.filter((other) => other === value).length]),
  );

/** The expected facets of a filter, counted from the rows that the register lists. */
const expected = async (person: string, filter: Filter) => {
  const without = (dimension: keyof Filter) => listed(person, { ...filter, [dimension]: undefined });
  const due = (await without('review')).filter((row) => row.state === 'in force' && row.reviewOn);
  const until = (day: string) => due.filter((row) => (row.reviewOn ?? '') <= day).length;
  const review = {
    Overdue: until(addDays(TODAY, -1)),
    'In 30 days': until(addDays(TODAY, 30)),
    'In 90 days': until(addDays(TODAY, 90)),
  };
  return {
    total: (await listed(person, filter)).length,
    state: tally((await without('state')).map((row) => row.state)),
    area: tally((await without('area')).map((row) => row.area)),
    type: tally((await without('type')).map((row) => row.type)),
    department: tally((await without('department')).map((row) => row.department)),
    review: Object.fromEntries(Object.entries(review).filter(([, n]) => n > 0)),
  };
};

const counted = async (person: string, filter: Filter) => {
  const facets = await facetsOf(organisation.app, await organisation.as(person), filter);
  const by = (list: { value: string; name: string; count: number }[], key: 'value' | 'name') =>
    Object.fromEntries(
      list.map((entry) => [entry[key], entry.count]).sort(([a], [b]) => String(a).localeCompare(String(b))),
    );
  return {
    total: facets.total,
    state: by(facets.state, 'value'),
    area: by(facets.area, 'name'),
    type: by(facets.type, 'value'),
    department: by(facets.department, 'name'),
    review: by(facets.review, 'name'),
  };
};

const PEOPLE = ['controller', 'author', 'owner', 'reader', 'reader2', 'authority', 'reviewer', 'stranger', 'admin'];
const REVISION_SCOPES = ['in force', 'newest', 'all revisions'] as const;

describe('counts beside the filters are those of the rows that the register lists', () => {
  const filters = (): [string, Partial<Filter>][] => [
    ['nothing picked', {}],
    ['a state', { state: 'in force' }],
    ['two states', { state: 'draft~in review~in approval' }],
    ['an area and a type', { area: organisation.folders.get('1') ?? '', type: 'PRO' }],
    ['a department', { department: organisation.units.get('ops') ?? '' }],
    ['a folder alone', { folder: organisation.folders.get('1') ?? '', reach: 'here' }],
    ['a folder with what is below', { folder: organisation.folders.get('1') ?? '', reach: 'below' }],
    ['due for review', { review: '30' }],
    ['an owner', { owner: organisation.ids.owner ?? '' }],
    ['words', { q: 'listed' }],
    ['a past day', { on: '2026-11-24' }],
    ['today as the day', { on: TODAY }],
  ];

  for (const person of PEOPLE) {
    test(`for ${person}`, async () => {
      for (const revisionScope of REVISION_SCOPES)
        for (const [what, filter] of filters()) {
          const filtered = { ...base, revisionScope, ...filter };
          expect({ revisionScope, what, ...(await counted(person, filtered)) }).toEqual({
            revisionScope,
            what,
            ...(await expected(person, filtered)),
          });
        }
    });
  }

  test('also on the first and on the last days of a month, where a bound cuts it', async () => {
    for (const day of ['2026-11-01', '2026-11-16', '2026-11-30', '2026-12-31', '2027-02-28']) {
      organisation.clock.now = new Date(`${day}T09:00:00Z`);
      const { review } = await counted('controller', base);
      const due = (await listed('controller', base)).filter((row) => row.state === 'in force' && row.reviewOn);
      const until = (to: string) => due.filter((row) => (row.reviewOn ?? '') <= to).length;
      expect([day, review.Overdue ?? 0, review['In 30 days'] ?? 0, review['In 90 days'] ?? 0]).toEqual([
        day,
        until(addDays(day, -1)),
        until(addDays(day, 30)),
        until(addDays(day, 90)),
      ]);
    }
    organisation.clock.now = new Date(`${TODAY}T09:00:00Z`);
  });
});

describe('kept counts', () => {
  const kept = () =>
    rows<Record<string, unknown>>(
      organisation.app.db,
      `select revision_scope, folder_id, type_id, department_id, work_state, public_state, review_month, sum(n)::int as n
       from document_counts group by 1, 2, 3, 4, 5, 6, 7 having sum(n) <> 0 order by 1, 2, 3, 4, 5, 6, 7`,
    );

  test('are the same as counting anew, whatever was done, and after folding', async () => {
    const before = await kept();
    await foldCounts(organisation.app.db);
    expect(await kept()).toEqual(before);
    const [twice] = await rows(
      organisation.app.db,
      'select 1 from document_counts group by revision_scope, folder_id, type_id, department_id, work_state, public_state, review_month having count(*) > 1',
    );
    expect(twice).toBeUndefined();
    await rows(organisation.app.db, 'select count_documents_anew()');
    expect(await kept()).toEqual(before);
  });

  test('stay right when two fold at once while a document is registered', async () => {
    const [{ n: total } = { n: -1 }] = await rows<{ n: number }>(
      organisation.app.db,
      `select sum(n)::int as n from document_counts where revision_scope = 'document'`,
    );
    for (let i = 0; i < 3; i++) await organisation.register('author', { title: `More ${i}` });
    await Promise.all([
      foldCounts(organisation.app.db),
      organisation.register('author', { title: 'Meanwhile' }),
      foldCounts(organisation.app.db),
    ]);
    const [now] = await rows<{ n: number }>(
      organisation.app.db,
      `select sum(n)::int as n from document_counts where revision_scope = 'document'`,
    );
    expect(now?.n).toBe(total + 4);
  });
});

test('the register shows the metadata that a type shows, in words, those of the revision before those of the document', async () => {
  const shown = (key: string, kind: string, more: object = {}) => ({
    key,
    label: key,
    kind,
    mandatory: false,
    level: 'revision',
    shown: true,
    ...more,
  });
  await rows(organisation.app.db, `update types set fields = cast(:fields as jsonb) where code = 'PRO'`, {
    fields: JSON.stringify([
      shown('tester', 'person'),
      shown('result', 'choice', { options: [{ code: 'ok', text: 'as required' }] }),
      shown('minutes', 'number', { unit: 'min' }),
      { ...shown('hidden', 'text'), shown: false },
    ]),
  });
  const [first] = await listed('author', { ...base, type: 'PRO' });
  await rows(organisation.app.db, `update documents set metadata = '{"minutes": 5, "result": "old"}' where id = :id`, {
    id: first?.documentId,
  });
  const metadata = JSON.stringify({ tester: organisation.ids.reader, result: 'ok', hidden: 'not told' });
  await rows(
    organisation.app.db,
    `update revisions set metadata = cast(:metadata as jsonb) where id = :id and state in ('draft', 'in review')`,
    { metadata, id: first?.revisionId },
  );
  const [after, other] = await listed('author', { ...base, type: 'PRO' });
  const { name } = await organisation.as('reader');
  expect(after?.metadata).toEqual({ tester: name, result: 'as required', minutes: '5 min' });
  expect(other?.metadata).toEqual({});
});
