import { Readable } from 'node:stream';
import { api, NEW_TYPE, type TypeRule } from '@kanonos/contract';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { field } from '../../../core/src/testing/field.ts';
import { correctMetadata } from '../features/authoring/metadata.ts';
import { takeUpload } from '../features/content/uploads.ts';
import { numberRules } from '../features/numbers/service.ts';
import { addUnit } from '../features/people/service.ts';
import { classificationPackage } from '../features/rules/classification.ts';
import { editionsOfList, findEntries, listLists, saveChoices, saveLookup } from '../features/rules/lists.ts';
import { applyPackage, tryPackage } from '../features/rules/package.ts';
import { knownRules } from '../features/rules/service.ts';
import { changeOrganisation, organisationSettings } from '../features/rules/settings.ts';
import {
  addType,
  applyDuePlans,
  changeType,
  dropPlan,
  listTypeRules,
  tryType,
  typeDetail,
} from '../features/rules/types.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
const admin = () => organisation.as('admin');
beforeAll(async () => {
  organisation = await openOrganisation();
});
afterAll(() => organisation.close());

const typeId = (code: string) => organisation.types.get(code) ?? '';
const change = async (
  code: string,
  edit: (rule: TypeRule) => Partial<TypeRule>,
  more: { from?: string; fill?: string[]; reason?: string } = {},
) => {
  const { rule, rowVersion } = await typeDetail(organisation.app, typeId(code));
  return changeType(organisation.app, await admin(), typeId(code), {
    rule: { ...rule, ...edit(rule) },
    reason: more.reason ?? 'as the test says',
    rowVersion,
    from: more.from ?? null,
    fill: more.fill ?? [],
  });
};
const trial = async (code: string, edit: (rule: TypeRule) => Partial<TypeRule>) => {
  const { rule } = await typeDetail(organisation.app, typeId(code));
  return tryType(organisation.app, { id: typeId(code), rule: { ...rule, ...edit(rule) } });
};
const NEW: TypeRule = {
  ...NEW_TYPE,
  code: 'CHK',
  name: 'Check sheet',
  family: 'Records',
  group: 'Checks',
  help: 'What was checked, and by whom',
  example: 'Rope end check',
  numbering: 'TST-{type}-{year}-{counter:3:per=year}',
  naming: '{number}_{title}.{ext}',
  scheme: { kind: 'integers', first: 1 },
  fields: [field('line', { kind: 'choice', mandatory: true, options: [{ code: 'N', text: 'North' }] })],
  releaseWithoutRoute: true,
};

test('a type is set up from nothing and its first document registered by its rule', async () => {
  const { id } = await addType(organisation.app, await admin(), {
    rule: NEW,
    reason: 'Checks are records now',
  });
  organisation.types.set('CHK', id);
  expect(await codeOf(addType(organisation.app, await admin(), { rule: NEW, reason: 'again' }))).toBe(
    'type_code_taken',
  );
  const { number } = await organisation.register('author', { type: 'CHK' });
  expect(number).toBe('TST-CHK-2026-001');
  const listed = (await listTypeRules(organisation.app)).types.find((type) => type.id === id);
  expect(listed).toMatchObject({ family: 'Records', group: 'Checks', documents: 1, retired: false });
});

test('each change is an edition with its reason and what differs, in the trail too', async () => {
  await change('MEM', () => ({ name: 'Memorandum', reviewEvery: 6 }), { reason: 'The word of the organisation' });
  const { editions, rule } = await typeDetail(organisation.app, typeId('MEM'));
  expect(rule.name).toBe('Memorandum');
  expect(editions.map((e) => [e.n, e.reason])).toEqual([
    [2, 'The word of the organisation'],
    [1, 'First edition'],
  ]);
  expect(editions[0]?.differences).toEqual([
    { what: 'name', before: 'Memo', after: 'Memorandum' },
    { what: 'reviewEvery', before: '12', after: '6' },
  ]);
  const [event] = await rows<{ text: string }>(
    organisation.app.db,
    `select text from events where kind = 'type.changed' order by seq desc limit 1`,
  );
  expect(event?.text).toContain('The word of the organisation');
  expect(await codeOf(change('MEM', () => ({})))).toBe('nothing_changed');
  await expect(rows(organisation.app.db, 'update rule_editions set n = 99')).rejects.toThrow();
});

test('a change by somebody else meanwhile is not overwritten', async () => {
  const { rule } = await typeDetail(organisation.app, typeId('MEM'));
  const stale = changeType(organisation.app, await admin(), typeId('MEM'), {
    rule: { ...rule, name: 'Other' },
    reason: 'stale',
    rowVersion: 1,
    from: null,
    fill: [],
  });
  expect(await codeOf(stale)).toBe('changed_meanwhile');
});

test('a rule by which a number could be read in two ways is refused with that number, and nothing of it remains', async () => {
  const ambiguous = change('TWO', () => ({ numbering: 'TST-PRO-0{counter:3}' }));
  await expect(ambiguous).rejects.toMatchObject({
    refusals: [{ code: 'rule_ambiguous', params: { number: 'TST-PRO-0001' } }],
  });
  expect((await typeDetail(organisation.app, typeId('TWO'))).rule.numbering).toBe('TST-{type}-{counter:4}');
  const tried = await trial('TWO', () => ({ numbering: 'TST-PRO-0{counter:3}' }));
  expect(tried.refusals.map((r) => r.code)).toEqual(['rule_ambiguous']);
  expect(tried.refusals[0]?.detail).toContain('TST-PRO-0001');
});

test('an option or a code that would make a rule ambiguous is refused, by one list and by a department', async () => {
  await saveChoices(organisation.app, await admin(), 'lines', {
    name: 'Lines',
    dependsOn: null,
    options: [{ code: '1', text: 'One' }],
    rowVersion: 0,
    reason: 'first',
  });
  const rule: TypeRule = {
    ...NEW,
    code: 'LIN',
    numbering: 'LN-{field:line}{counter:3}',
    fields: [field('line', { kind: 'choice', mandatory: true, list: 'lines' })],
  };
  const { id } = await addType(organisation.app, await admin(), { rule, reason: 'lines are numbered' });
  organisation.types.set('LIN', id);
  const second = saveChoices(organisation.app, await admin(), 'lines', {
    name: 'Lines',
    dependsOn: null,
    options: [
      { code: '1', text: 'One' },
      { code: '11', text: 'Eleven' },
    ],
    rowVersion: 1,
    reason: 'one more',
  });
  await expect(second).rejects.toMatchObject({
    refusals: [{ code: 'rule_ambiguous', params: { number: 'LN-11001' } }],
  });
  expect((await listLists(organisation.app)).choices.find((list) => list.key === 'lines')?.options).toHaveLength(1);
  await addType(organisation.app, await admin(), {
    rule: { ...NEW, code: 'DEP', numbering: '{department}{counter:3}', fields: [] },
    reason: 'by department',
  });
  const unit = addUnit(organisation.app, await admin(), { kind: 'department', code: 'ENG1', name: 'Engineering one' });
  expect(await codeOf(unit)).toBe('rule_ambiguous');
  await addUnit(organisation.app, await admin(), { kind: 'department', code: 'LAB', name: 'Laboratory' });
});

test('a changed rule continues the counter where it renders alike; earlier numbers stay readable and are never given again', async () => {
  const first = await organisation.register('author', { type: 'TWO' });
  expect(first.number).toBe('TST-TWO-0001');
  const tried = await trial('TWO', () => ({ numbering: 'TST-{type}-{counter:5}' }));
  expect(tried.leftBehind).toEqual([{ scope: 'TST-TWO-#', last: 1 }]);
  await change('TWO', () => ({ numbering: 'TST-{type}-{counter:5}' }));
  expect((await organisation.register('author', { type: 'TWO' })).number).toBe('TST-TWO-00002');
  const { rules } = await numberRules(organisation.app);
  expect(rules.find((rule) => rule.retired)).toMatchObject({
    rule: 'TST-TWO-{counter:4}',
    retired: { scope: 'TST-TWO-#', last: 1 },
  });
  // 0001 was given under the old rule: no other rule may come to it.
  expect(await codeOf(change('MEM', () => ({ numbering: 'TST-TWO-0{counter:3}' })))).toBe('rule_ambiguous');
  // Back to four digits: the scope counts on, both spellings stay readable.
  await change('TWO', () => ({ numbering: 'TST-{type}-{counter:4}' }));
  expect((await organisation.register('author', { type: 'TWO' })).number).toBe('TST-TWO-0003');
  expect((await knownRules(organisation.app.db)).filter((rule) => rule.retired).map((rule) => rule.id)).toEqual([
    'TST-TWO-{counter:5} up to 2',
  ]);
});

test('a retired type gives no more numbers and its old ones stay taken', async () => {
  const { number } = await organisation.register('author', { type: 'LIN' }).catch(() => ({ number: '' }));
  expect(number).toBe(''); // it asks for its line
  await change('LIN', () => ({ retired: true }));
  expect(await codeOf(organisation.register('author', { type: 'LIN' }))).toBe('type_retired');
});

test('a change planned for a day applies from that day, or is blocked with the reason when it no longer can', async () => {
  await change('MEM', () => ({ numbering: 'TST-{type}-{year}-{counter:3:per=year}' }), { from: '2026-12-01' });
  expect((await organisation.register('author', { type: 'MEM' })).number).toBe('TST-MEM-001');
  expect((await typeDetail(organisation.app, typeId('MEM'))).planned).toMatchObject({
    from: '2026-12-01',
    blockedReason: null,
  });
  expect(await codeOf(change('MEM', () => ({ name: 'Third' })))).toBe('rule_planned_already');
  expect(await codeOf(change('PRO', () => ({ name: 'Past' }), { from: '2026-11-25' }))).toBe('day_not_after_today');
  organisation.clock.now = new Date('2026-11-30T23:30:00Z'); // 1 December in Zurich
  // Nobody ticked: registering itself settles what is due.
  expect((await organisation.register('author', { type: 'MEM' })).number).toBe('TST-MEM-2026-002'); // counted per year over all types of the rule
  expect((await typeDetail(organisation.app, typeId('MEM'))).planned).toBeNull();

  await change('CHK', () => ({ code: 'CHX' }), { from: '2026-12-02' });
  await addType(organisation.app, await admin(), {
    rule: { ...NEW, code: 'CHX', numbering: 'X{counter:4}' },
    reason: 'in the way',
  });
  organisation.clock.now = new Date('2026-12-02T09:00:00Z');
  await applyDuePlans(organisation.app);
  expect((await typeDetail(organisation.app, typeId('CHK'))).planned?.blockedReason).toContain(
    'Another type has this code',
  );
  await dropPlan(organisation.app, await admin(), typeId('CHK'), 'the code is taken');
  expect((await typeDetail(organisation.app, typeId('CHK'))).planned).toBeNull();
});

test('a new mandatory field: gaps in figures first, fixed values filled where asked, nothing else blocked', async () => {
  const inForce = await organisation.register('author');
  await organisation.toInForce(inForce.number);
  const draft = await organisation.register('author');
  const fields = [
    field('limit', { level: 'revision' }),
    field('site', { mandatory: true, label: 'Site' }),
    field('years', { kind: 'number', label: 'Kept', default: { from: 'fixed', value: '10' } }),
    field('seal', { mandatory: true, level: 'revision', label: 'Seal' }),
  ];
  const tried = await trial('PRO', () => ({ fields }));
  expect(tried.refusals).toEqual([]);
  expect(tried.gaps).toEqual([
    { key: 'site', label: 'Site', level: 'document', reached: 2, fills: false },
    { key: 'years', label: 'Kept', level: 'document', reached: 2, fills: true },
    { key: 'seal', label: 'Seal', level: 'revision', reached: 1, fills: false },
  ]);
  expect(await change('PRO', () => ({ fields }), { fill: ['years'] })).toEqual({ filled: 2 });
  const page = await organisation.page('controller', inForce.number);
  expect(page.metadata.years).toBe(10);
  expect(page.revision.state).toBe('in force');
  expect((await organisation.page('reader', inForce.number)).number).toBe(inForce.number);
  // What is sent must be whole: the draft lacks two metadata.
  await expect(organisation.submitAndReview(draft.number)).rejects.toMatchObject({
    refusals: expect.arrayContaining([expect.objectContaining({ code: 'field_value_missing' })]),
  });
});

test('a field that documents use keeps its kind, and a field no longer asked stays on them', async () => {
  const { number, id } = await organisation.register('author');
  const page = await organisation.page('author', number);
  await correctMetadata(organisation.app, await organisation.as('author'), id, {
    title: page.revision.title,
    summary: '',
    metadata: { limit: '12 kN', site: 'T9', years: 5, seal: 'lead' },
    keywords: [],
    ownerId: organisation.ids.owner ?? '',
    reviewOn: null,
    reason: 'measured',
    rowVersion: page.rowVersion,
    revisionRowVersion: page.revision.rowVersion,
  });
  expect(
    await codeOf(
      change('PRO', (rule) => ({
        fields: rule.fields.map((f) => (f.key === 'limit' ? { ...f, kind: 'date' as const } : f)),
      })),
    ),
  ).toBe('field_kind_in_use');
  const dropped = await trial('PRO', (rule) => ({ fields: rule.fields.filter((f) => f.key !== 'limit') }));
  expect(dropped.dropped).toEqual([{ label: 'limit', documents: 1 }]);
  await change('PRO', (rule) => ({ fields: rule.fields.filter((f) => f.key !== 'limit') }));
  const after = await organisation.page('author', number);
  await correctMetadata(organisation.app, await organisation.as('author'), id, {
    title: 'Another title',
    summary: '',
    metadata: { site: 'T10', years: 5, seal: 'lead' },
    keywords: [],
    ownerId: organisation.ids.owner ?? '',
    reviewOn: null,
    reason: 'moved',
    rowVersion: after.rowVersion,
    revisionRowVersion: after.revision.rowVersion,
  });
  expect((await organisation.page('author', number)).metadata).toMatchObject({ limit: '12 kN', site: 'T10' });
  expect(await codeOf(change('PRO', () => ({ scheme: { kind: 'major.minor' } })))).toBe('scheme_in_use');
});

test('lists depend in a chain; options that documents use are retired, not removed', async () => {
  const save = async (
    key: string,
    dependsOn: string | null,
    options: { code: string; text: string; under?: string; retired?: boolean }[],
    rowVersion = 0,
  ) => saveChoices(organisation.app, await admin(), key, { name: key, dependsOn, options, rowVersion, reason: 'test' });
  await save('region', null, [{ code: 'ALP', text: 'Alps' }]);
  await save('country', 'region', [{ code: 'CH', text: 'Switzerland', under: 'ALP' }]);
  expect(await codeOf(save('country', 'region', [{ code: 'AT', text: 'Austria', under: 'SEA' }], 1))).toBe(
    'option_under_unknown',
  );
  expect(await codeOf(save('region', 'country', [{ code: 'ALP', text: 'Alps', under: 'CH' }], 1))).toBe(
    'list_depends_in_circle',
  );
  expect(await codeOf(save('Region 1', null, []))).toBe('list_key_invalid');
  expect(await codeOf(save('region', null, []))).toBe('list_key_taken');
  const fields = (await typeDetail(organisation.app, typeId('CHK'))).rule.fields;
  await change('CHK', () => ({
    fields: [
      ...fields,
      field('region', { kind: 'choice', list: 'region' }),
      field('country', { kind: 'choice', list: 'country', dependsOn: 'region' }),
    ],
  }));
  expect(
    await codeOf(
      change('CHK', (rule) => ({ fields: [...rule.fields, field('x', { kind: 'choice', list: 'nowhere' })] })),
    ),
  ).toBe('field_list_unknown');
  await save(
    'country',
    'region',
    [
      { code: 'CH', text: 'Switzerland', under: 'ALP' },
      { code: 'AT', text: 'Austria', under: 'ALP' },
    ],
    1,
  );
  const country = (await typeDetail(organisation.app, typeId('CHK'))).rule.fields.find((f) => f.key === 'country');
  expect(country?.options?.map((option) => option.code)).toEqual(['CH', 'AT']);
  await rows(
    organisation.app.db,
    `update documents set metadata = metadata || '{"country":"CH"}' where type_id = :id`,
    {
      id: typeId('CHK'),
    },
  );
  expect(await codeOf(save('country', 'region', [{ code: 'AT', text: 'Austria', under: 'ALP' }], 2))).toBe(
    'option_in_use',
  );
  await save(
    'country',
    'region',
    [
      { code: 'CH', text: 'Switzerland', under: 'ALP', retired: true },
      { code: 'AT', text: 'Austria', under: 'ALP' },
    ],
    2,
  );
});

test('a look-up list is chosen from by a few letters, and only its entries are taken', async () => {
  await saveLookup(organisation.app, await admin(), 'project', {
    name: 'Projects',
    metadata: [{ key: 'client', label: 'Client', kind: 'text' }],
    entries: [
      { code: 'P1', name: 'Skarn line', metadata: { client: 'Skarn Ropeways' }, retired: false },
      { code: 'P2', name: 'Old line', metadata: {}, retired: true },
    ],
    rowVersion: 0,
    reason: 'first',
  });
  expect(await findEntries(organisation.app, 'project', 'skarn')).toEqual({
    entries: [{ code: 'P1', name: 'Skarn line', metadata: { client: 'Skarn Ropeways' } }],
  });
  expect(await codeOf(findEntries(organisation.app, 'nothing', ''))).toBe('not_found');
  const { rowVersion, rule } = await typeDetail(organisation.app, typeId('PRO'));
  await changeType(organisation.app, await admin(), typeId('PRO'), {
    rule: { ...rule, fields: [field('project', { kind: 'entry', list: 'project' }), field('tag', { unique: true })] },
    reason: 'projects',
    rowVersion,
    from: null,
    fill: [],
  });
  const correct = async (ref: string, metadata: Record<string, string>) => {
    const page = await organisation.page('author', ref);
    return correctMetadata(organisation.app, await organisation.as('author'), ref, {
      title: page.revision.title,
      summary: '',
      metadata,
      keywords: [],
      ownerId: organisation.ids.owner ?? '',
      reviewOn: null,
      reason: 'x',
      rowVersion: page.rowVersion,
      revisionRowVersion: page.revision.rowVersion,
    });
  };
  const [one, two] = [await organisation.register('author'), await organisation.register('author')];
  await correct(one.id, { project: 'P1', tag: 'GR-1' });
  expect(await codeOf(correct(two.id, { project: 'P2' }))).toBe('entry_unknown');
  expect(await codeOf(correct(two.id, { tag: 'GR-1' }))).toBe('field_value_taken');
  await correct(one.id, { project: 'P1', tag: 'GR-1' });
  const both = await Promise.allSettled([
    correct(two.id, { tag: 'GR-2' }),
    correct(one.id, { project: 'P1', tag: 'GR-2' }),
  ]);
  expect(both.filter((result) => result.status === 'fulfilled')).toHaveLength(1);
});

test('a type that names units is registered by their people only', async () => {
  await change('MEM', () => ({ registerUnitIds: [organisation.units.get('ctrl') ?? ''] }));
  expect(await codeOf(organisation.register('author', { type: 'MEM' }))).toBe('type_not_yours');
  await organisation.register('controller', { type: 'MEM' });
});

test('the organisation as a whole: week, holidays and fallback approver, with editions', async () => {
  const before = await organisationSettings(organisation.app);
  const body = {
    name: 'Test organisation',
    week: [1, 2, 3, 4],
    holidays: [{ day: '2026-12-08', name: 'Ropeway day' }],
    signingIdleMinutes: 10,
    fallbackApproverId: organisation.ids.controller ?? null,
    rowVersion: before.rowVersion,
    reason: 'Four days a week',
  };
  expect(
    await codeOf(
      changeOrganisation(organisation.app, await admin(), { ...body, holidays: [...body.holidays, ...body.holidays] }),
    ),
  ).toBe('holiday_twice');
  await changeOrganisation(organisation.app, await admin(), body);
  const after = await organisationSettings(organisation.app);
  expect(after).toMatchObject({ week: [1, 2, 3, 4], signingIdleMinutes: 10, fallbackApprover: { name: 'Controller' } });
  expect(after.editions.map((edition) => edition.reason)).toEqual(['Four days a week', 'First edition']);
  expect((await organisation.app.organisation()).calendar.holidays.has('2026-12-08')).toBe(true);
  expect(await codeOf(changeOrganisation(organisation.app, await admin(), body))).toBe('nothing_changed');
});

test('code and time zone of the organisation: the code may change, the zone only while nothing is registered', async () => {
  const fresh = await openOrganisation();
  try {
    const admin = await fresh.as('admin');
    const base = async () => {
      const { name, week, holidays, signingIdleMinutes, rowVersion } = await organisationSettings(fresh.app);
      return { name, week, holidays, signingIdleMinutes, fallbackApproverId: null, rowVersion, reason: 'As we are' };
    };
    await changeOrganisation(fresh.app, admin, { ...(await base()), code: 'NEW', zone: 'America/Lima' });
    expect(await organisationSettings(fresh.app)).toMatchObject({ code: 'NEW', zone: 'America/Lima' });
    await fresh.register('author');
    expect(await codeOf(changeOrganisation(fresh.app, admin, { ...(await base()), zone: 'Europe/Oslo' }))).toBe(
      'zone_fixed',
    );
    await changeOrganisation(fresh.app, admin, { ...(await base()), code: 'NEWER', zone: 'America/Lima' });
    const { editions } = await organisationSettings(fresh.app);
    expect(editions[0]?.differences).toEqual([{ what: 'code', before: 'NEW', after: 'NEWER' }]);
  } finally {
    await fresh.close();
  }
  const { code, zone } = api.rules.changeOrganisation.body.shape;
  for (const wrong of ['lower', 'NINELETTERS', '']) expect(code.safeParse(wrong).success, wrong).toBe(false);
  for (const wrong of ['Mars/Olympus', '']) expect(zone.safeParse(wrong).success, wrong).toBe(false);
});

test('32 clients register while the rule changes under them: no gap, no number twice, each by one of the two rules', async () => {
  const clients = Array.from({ length: 32 }, (_, i) =>
    organisation.register('author', { type: 'TWO', title: `n ${i}` }),
  );
  const changed = change('TWO', () => ({ numbering: 'TST-{type}-{counter:6}' }));
  const numbers = (await Promise.all(clients)).map(({ number }) => number);
  await changed;
  const counters = numbers.map((number) => Number(/(\d+)$/.exec(number)?.[1])).sort((a, b) => a - b);
  expect(counters).toEqual(Array.from({ length: 32 }, (_, i) => (counters[0] ?? 0) + i));
  const retired = (await knownRules(organisation.app.db)).find((rule) => rule.rule.text === 'TST-TWO-{counter:4}');
  const four = numbers.filter((number) => /-\d{4}$/.test(number)).map((number) => Number(number.slice(-4)));
  // Every number in the old spelling is within what the retired rule vouches for.
  for (const counter of four) expect(counter).toBeLessThanOrEqual(retired?.retired?.last ?? 0);
  expect((await organisation.verdict()).kind).toBe('intact');
});

test('the rules go out as one package and come into another organisation, all or nothing; additions of an organisation stay', async () => {
  const { exportConfiguration } = await import('../features/rules/package.ts');
  const { ConfigurationPackage } = await import('@kanonos/contract');
  const made = ConfigurationPackage.parse(JSON.parse(JSON.stringify(await exportConfiguration(organisation.app))));
  expect(JSON.stringify(made)).not.toMatch(/[0-9a-f]{8}-[0-9a-f]{4}-/);
  expect((await tryPackage(organisation.app, made)).changes).toEqual([]);
  const other = await openOrganisation();
  try {
    const viewer = await other.as('admin');
    const { changes } = await tryPackage(other.app, made);
    expect(changes.filter((one) => one.isNew).map((one) => one.name)).toEqual(
      expect.arrayContaining(['department/LAB', 'region', 'country', 'Projects', 'CHK Check sheet']),
    );
    const broken = {
      ...made,
      types: made.types.map((type) =>
        type.rule.code === 'CHK' ? { ...type, rule: { ...type.rule, numbering: 'TST-PRO-0{counter:3}' } } : type,
      ),
    };
    expect(await codeOf(applyPackage(other.app, viewer, { package: broken, reason: 'x' }))).toBe('rule_ambiguous');
    expect((await tryPackage(other.app, made)).changes).toEqual(changes);
    const strange = {
      ...made,
      types: made.types.slice(0, 1).map((type) => ({ ...type, rule: { ...type.rule, registerUnits: ['role/NONE'] } })),
    };
    expect(await codeOf(applyPackage(other.app, viewer, { package: strange, reason: 'x' }))).toBe(
      'package_unit_unknown',
    );
    await applyPackage(other.app, viewer, { package: made, reason: 'As in the other organisation' });
    expect((await tryPackage(other.app, made)).changes).toEqual([]);
    other.types.set('CHK', (await listTypeRules(other.app)).types.find((type) => type.code === 'CHK')?.id ?? '');
    expect((await other.register('author', { type: 'CHK' })).number).toBe('TST-CHK-2026-001');
    expect(await codeOf(applyPackage(other.app, viewer, { package: made, reason: 'again' }))).toBe('nothing_changed');
    expect((await other.verdict()).kind).toBe('intact');
  } finally {
    await other.close();
  }
});

test('a published classification comes in from a table, and its next edition with what the organisation added kept', async () => {
  const read = async (text: string) => {
    const upload = await takeUpload(organisation.app, await admin(), 'classes.csv', Readable.from([Buffer.from(text)]));
    return classificationPackage(organisation.app, await admin(), upload.id);
  };
  const HEAD = 'Code;Name;Family;Group;Help;Like;Fields;List;Depends on;Option;Text;Under\n';
  const lists = ';;;;;;;Line;;N;North;\n;;;;;;;Section;Line;N1;North one;N\n';
  const first = await read(
    `${HEAD}NIG;Night order;Operation;Running;What runs at night;PRO;Line, Section;;;;;\nX;;;;;;;;;;;\n${lists}`,
  );
  expect(first.wrong).toEqual([{ line: 3, reason: 'type X has no name' }]);
  expect((await tryPackage(organisation.app, first.package)).changes.map((one) => [one.kind, one.isNew])).toEqual([
    ['choices', true],
    ['choices', true],
    ['type', true],
  ]);
  await applyPackage(organisation.app, await admin(), { package: first.package, reason: 'edition 1' });
  const nig = (await listTypeRules(organisation.app)).types.find((one) => one.code === 'NIG');
  const { rule, rowVersion } = await typeDetail(organisation.app, nig?.id ?? '');
  expect(rule.fields.find((one) => one.key === 'section')).toMatchObject({ dependsOn: 'line', list: 'section' });
  expect(rule.route.steps.length).toBeGreaterThan(0);
  await changeType(organisation.app, await admin(), nig?.id ?? '', {
    rule: { ...rule, reviewEvery: 7, fields: [...rule.fields, field('ours')] },
    reason: 'our own',
    rowVersion,
    from: null,
    fill: [],
  });
  const second = await read(
    `${HEAD}NIG;Night running order;Operation;Running;New help;;Line, Section;;;;;\n${lists};;;;;;;Line;;S;South;\n`,
  );
  await applyPackage(organisation.app, await admin(), { package: second.package, reason: 'edition 2' });
  const after = (await typeDetail(organisation.app, nig?.id ?? '')).rule;
  expect(after).toMatchObject({ name: 'Night running order', help: 'New help', reviewEvery: 7 });
  expect(after.fields.map((one) => one.key)).toContain('ours');
  expect(after.fields.find((one) => one.key === 'line')?.options?.map((one) => one.code)).toEqual(['N', 'S']);
});

test('a list keeps its editions with what differs between them', async () => {
  const save = async (options: { code: string; text: string }[], rowVersion: number, reason: string) =>
    saveChoices(organisation.app, await admin(), 'grades', {
      name: 'Grades',
      dependsOn: null,
      options,
      rowVersion,
      reason,
    });
  await save([{ code: 'A', text: 'Plain' }], 0, 'Begun');
  await save([{ code: 'A', text: 'Plain steel' }], 1, 'Said more exactly');
  const { editions } = await editionsOfList(organisation.app, { kind: 'choices', key: 'grades' });
  expect(editions.map((edition) => [edition.n, edition.reason, edition.differences.length])).toEqual([
    [2, 'Said more exactly', 1],
    [1, 'Begun', 0],
  ]);
  expect((await editionsOfList(organisation.app, { kind: 'lookup', key: 'grades' })).editions).toEqual([]);
});
