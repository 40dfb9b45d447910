import type { Field, TypeRule } from '@kanonos/contract';
import { describe, expect, test } from 'vitest';
import { checkSource, renameFile, renumber, replaceContent } from '../features/authoring/identity.ts';
import { sendReminders } from '../features/desk/reminders.ts';
import { desk } from '../features/desk/service.ts';
import { drawingReferences } from '../features/documents/references.ts';
import { knownNumbers } from '../features/numbers/service.ts';
import { endMembership, personDetail, setMembership } from '../features/people/service.ts';
import { registerDocument } from '../features/registration/service.ts';
import { changeOrganisation, organisationSettings } from '../features/rules/settings.ts';
import { changeType, typeDetail } from '../features/rules/types.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();

const changeRule = async (code: string, edit: Partial<TypeRule>) => {
  const id = organisation.types.get(code) ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, id);
  await changeType(organisation.app, await organisation.as('admin'), id, {
    rule: { ...rule, ...edit },
    reason: 'as the test says',
    rowVersion,
    from: null,
    fill: [],
  });
};
const nameOf = async (number: string) => (await organisation.page('author', number)).versions[0]?.files[0]?.name;

describe('renumbering', () => {
  test('gives the next number, makes the old one void with where it went, and leads there', async () => {
    const { number, id } = await organisation.register('author');
    const as = (person: string) => organisation.as(person);
    expect(
      await codeOf(renumber(organisation.app, await as('author2'), number, { seen: '*', number: null, reason: 'x' })),
    ).toBe('right_missing');
    const { number: now } = await renumber(organisation.app, await as('controller'), number, {
      seen: '*',
      number: null,
      reason: 'wrong type',
    });
    expect(now).not.toBe(number);
    expect((await organisation.page('author', number)).id).toBe(id);
    expect((await organisation.page('author', now)).number).toBe(now);
    const known = await knownNumbers(organisation.app, await as('controller'), [number.toLowerCase()]);
    expect(JSON.stringify(known)).toContain(`now ${now}`);
    await organisation.submitAndReview(now);
    expect(
      await codeOf(renumber(organisation.app, await as('controller'), now, { seen: '*', number: null, reason: 'x' })),
    ).toBe('number_is_known');
  });

  test('32 renumberings and registrations at once take every number once', async () => {
    const made = await Promise.all(Array.from({ length: 8 }, () => organisation.register('author', { type: 'TWO' })));
    const controller = await organisation.as('controller');
    const again = await Promise.all([
      ...made.map(({ number }) =>
        renumber(organisation.app, controller, number, { seen: '*', number: null, reason: 'x' }),
      ),
      ...Array.from({ length: 8 }, () => organisation.register('author', { type: 'TWO' })),
    ]);
    const all = [...made, ...again].map((one) => one.number);
    expect(new Set(all).size).toBe(all.length);
  });
});

describe('stored names', () => {
  test('follow the rule from registering on, through check-in, a new title and a new number', async () => {
    await changeRule('PRO', { followsNamingRule: true });
    const { number } = await organisation.register('author', { title: 'Grip overhaul' });
    expect(await nameOf(number)).toBe(`${number}_A_Grip-overhaul.md`);
    await organisation.checkOut('author', number);
    await organisation.checkIn('author', number, {
      uploadId: await organisation.upload('author', 'new', 'whatever it was.md'),
      note: 'n',
    });
    expect(await nameOf(number)).toBe(`${number}_A_Grip-overhaul.md`);
    await organisation.correct('author', number, { title: 'Grip springs' });
    expect(await nameOf(number)).toBe(`${number}_A_Grip-springs.md`);
    expect(
      await codeOf(
        renameFile(organisation.app, await organisation.as('author'), number, { name: 'mine.md', seen: '*' }),
      ),
    ).toBe('name_by_rule');
    const { number: now } = await renumber(organisation.app, await organisation.as('controller'), number, {
      seen: '*',
      number: null,
      reason: 'r',
    });
    expect(await nameOf(now)).toBe(`${now}_A_Grip-springs.md`);
    await changeRule('PRO', { followsNamingRule: false });
  });

  test('are given by hand where no rule names them, unless it is released or out to somebody else', async () => {
    const { number } = await organisation.register('author');
    await renameFile(organisation.app, await organisation.as('author'), number, { name: '../mine?.md', seen: '*' });
    expect(await nameOf(number)).toBe('mine?.md');
    await organisation.checkOut('author2', number);
    expect(
      await codeOf(renameFile(organisation.app, await organisation.as('author'), number, { name: 'x.md', seen: '*' })),
    ).toBe('checked_out');
  });
});

test('content is taken from another document and both histories record it; an invisible document answers as missing', async () => {
  const [a, b] = [
    await organisation.register('author'),
    await organisation.register('author', { text: '# the better one' }),
  ];
  const by = async (person: string, from: string) =>
    replaceContent(organisation.app, await organisation.as(person), a.number, {
      seen: '*',
      from,
      note: 'the better one',
    });
  expect(await codeOf(by('author', a.number))).toBe('replace_itself');
  expect(await codeOf(by('author', 'TST-PRO-9999'))).toBe('parent_unknown');
  await by('author', b.number);
  const [pageA, pageB] = [await organisation.page('author', a.number), await organisation.page('author', b.number)];
  expect(pageA.versions[0]?.files[0]?.sha256).toBe(pageB.versions[0]?.files[0]?.sha256);
  const kinds = await rows<{ kind: string; document: string }>(
    organisation.app.db,
    `select kind, text::jsonb->'subject'->'document'->>'number' as document from events where kind like 'content.%' order by seq`,
  );
  expect(kinds).toEqual([
    { kind: 'content.replaced', document: a.number },
    { kind: 'content.given', document: b.number },
  ]);
  expect(await codeOf(by('author', b.number))).toBe('same_content');
});

test('a change kind takes its own route, and the type asks its own fallback where nobody is found', async () => {
  const { rule } = await typeDetail(organisation.app, organisation.types.get('PRO') ?? '');
  const short: TypeRule['route'] = {
    name: 'short',
    steps: [
      {
        name: 'Holder',
        kind: 'approval',
        meaning: 'approved',
        assignees: [{ by: 'field', key: 'holder' }],
        rule: { kind: 'all' },
        workingDays: 2,
        onReject: 'draft',
      },
    ],
  };
  expect(await codeOf(changeRule('PRO', { routes: { editorial: short } }))).toBe('step_field_unknown');
  const holder: Field = { key: 'holder', label: 'Holder', kind: 'person', mandatory: false, level: 'document' };
  await changeRule('PRO', {
    fields: [...rule.fields, holder],
    routes: { editorial: short },
    fallbackApproverId: organisation.ids.authority ?? null,
  });
  const { number } = await organisation.register('author');
  await organisation.toInForce(number);
  await organisation.revise('author', number, { changeKind: 'editorial', reason: 'typing error' });
  await organisation.submit('author', number, { chosen: [] });
  const [run] = (await organisation.page('controller', number)).rounds;
  expect(run?.steps.map((step) => [step.name, step.assignments.map((a) => a.person.name)])).toEqual([
    ['Holder', ['Authority']],
  ]);
});

test('documents from outside are watched: due on the Desk, mailed once, and noted when looked at', async () => {
  await changeRule('SUP', { origin: { checkMonths: 6 }, sharing: [{ code: 'S1', text: 'for coordination' }] });
  const input = {
    typeId: organisation.types.get('SUP') ?? '',
    folderId: organisation.folders.get('1') ?? '',
    title: 'Rope standard',
    number: 'NRM 12927',
    label: '2019',
    uploadId: await organisation.upload('author', 'norm'),
    origin: { source: 'Standards shop', edition: '2019', watcherId: organisation.ids.author2 ?? null },
  };
  expect(
    await codeOf(
      registerDocument(organisation.app, await organisation.as('author'), { ...input, sharing: 'S9' }, null),
    ),
  ).toBe('sharing_unknown');
  const { number } = await registerDocument(
    organisation.app,
    await organisation.as('author'),
    { ...input, sharing: 'S1' },
    null,
  );
  expect((await organisation.page('author', number)).origin).toMatchObject({ checkOn: '2027-05-25', edition: '2019' });
  await rows(organisation.app.db, `update documents set origin_check_on = '2026-11-20' where number = :number`, {
    number,
  });
  const row = async (person: string) =>
    (await desk(organisation.app, await organisation.as(person))).rows.find(
      (one) => one.number === number && one.kind === 'check',
    );
  expect(await row('author2')).toMatchObject({ overdue: true, action: 'View' });
  expect(await row('author')).toBeUndefined();
  // Who may not see a draft is not reminded of it either.
  await rows(organisation.app.db, 'update documents set origin_watcher = :who where number = :number', {
    who: organisation.ids.reader,
    number,
  });
  expect(await row('reader')).toBeUndefined();
  expect(await sendReminders(organisation.app)).toBe(0);
  await rows(organisation.app.db, 'update documents set origin_watcher = :who where number = :number', {
    who: organisation.ids.author2,
    number,
  });
  expect(await sendReminders(organisation.app)).toBe(1);
  expect(await sendReminders(organisation.app)).toBe(0);
  await checkSource(organisation.app, await organisation.as('author2'), number, {
    edition: '2027',
    isNewer: true,
    note: 'in print',
  });
  expect((await organisation.page('author', number)).origin).toMatchObject({ checkOn: '2027-05-25', edition: '2019' });
  expect(await row('author2')).toBeUndefined();
});

test('a day field reminds its owner so many days before, and anew when the day is moved', async () => {
  const until: Field = {
    key: 'until',
    label: 'Runs until',
    kind: 'date',
    mandatory: false,
    level: 'document',
    remind: { days: 30, to: 'owner' },
  };
  await changeRule('TWO', { fields: [until] });
  const { number, id } = await organisation.register('author', { type: 'TWO' });
  const setDay = (day: string) =>
    rows(
      organisation.app.db,
      `update documents set metadata = jsonb_build_object('until', :day::text) where id = :id`,
      {
        id,
        day,
      },
    );
  await setDay('2027-06-01');
  expect(await sendReminders(organisation.app)).toBe(0);
  await setDay('2026-12-10');
  expect(await sendReminders(organisation.app)).toBe(1);
  expect(
    (await desk(organisation.app, await organisation.as('owner'))).rows.find((one) => one.number === number)?.detail,
  ).toContain('Runs until is 10 Dec 2026');
  await setDay('2026-12-12');
  expect(await sendReminders(organisation.app)).toBe(1);
});

test('a drawing lists its references, matched to visible documents', async () => {
  const { number } = await organisation.register('author');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg"><image href="${number}_A_plan.svg"/><image href="lost.png"/></svg>`;
  const found = await drawingReferences(
    organisation.app,
    await organisation.as('author'),
    await organisation.upload('author', svg, 'plan.svg'),
  );
  expect(found).toEqual({
    format: 'open',
    references: [
      { name: `${number}_A_plan.svg`, document: { number, title: 'A procedure' } },
      { name: 'lost.png', document: null },
    ],
  });
});

test('the organisation: words, colour, what confidentiality forbids; a group filled by what people are', async () => {
  const admin = await organisation.as('admin');
  const base = async () => {
    const now = await organisationSettings(organisation.app);
    return {
      name: now.name,
      week: now.week,
      holidays: now.holidays,
      signingIdleMinutes: now.signingIdleMinutes,
      fallbackApproverId: now.fallbackApprover?.id ?? null,
      rowVersion: now.rowVersion,
      reason: 'as we say it',
    };
  };
  const rule = { groupId: organisation.units.get('authors') ?? '', unitIds: [organisation.units.get('ta') ?? ''] };
  expect(
    await codeOf(
      changeOrganisation(organisation.app, admin, {
        ...(await base()),
        groupRules: [{ ...rule, groupId: rule.unitIds[0] ?? '' }],
      }),
    ),
  ).toBe('group_rule_wrong');
  await changeOrganisation(organisation.app, admin, {
    ...(await base()),
    colour: '#0b5364',
    stateWords: { draft: 'Being written' },
    groupRules: [rule],
  });
  expect((await organisation.app.organisation()).stateWords).toEqual({ draft: 'Being written' });
  const groups = async () =>
    (await personDetail(organisation.app, organisation.ids.authority ?? '')).memberships.filter(
      (m) => m.kind === 'group' && !m.to,
    );
  expect(await groups()).toHaveLength(1);
  const role = (await personDetail(organisation.app, organisation.ids.authority ?? '')).memberships.find(
    (m) => m.kind === 'role',
  );
  await endMembership(organisation.app, admin, organisation.ids.authority ?? '', role?.id ?? '', '2026-11-24');
  expect(await groups()).toHaveLength(0);
  await setMembership(organisation.app, admin, organisation.ids.authority ?? '', {
    kind: 'role',
    refId: organisation.units.get('ta') ?? '',
    from: '2026-11-25',
  });
  expect(await groups()).toHaveLength(1);
  expect((await organisation.verdict()).kind).toBe('intact');
});

test('a person named in a field who must decide is reminded of a draft that they otherwise cannot see', async () => {
  const fields: Field[] = [
    { key: 'lead', label: 'Shift lead', kind: 'person', mandatory: false, level: 'document' },
    {
      key: 'ends',
      label: 'Permit ends',
      kind: 'date',
      mandatory: false,
      level: 'document',
      remind: { days: 30, to: 'lead' },
    },
  ];
  const { rule } = await typeDetail(organisation.app, organisation.types.get('PRO') ?? '');
  const others = rule.fields.filter((field) => !fields.some(({ key }) => key === field.key));
  await changeRule('PRO', { fields: [...others, ...fields] });
  // What other tests left due goes first.
  await sendReminders(organisation.app);
  const { number, id } = await organisation.register('author');
  await rows(
    organisation.app.db,
    `update documents set metadata = jsonb_build_object('lead', :lead::text, 'ends', '2026-12-20') where id = :id`,
    { id, lead: organisation.ids.reader },
  );
  // A reader does not see drafts, so nothing is revealed.
  expect(await sendReminders(organisation.app)).toBe(0);
  await organisation.submit('author', number, { chosen: [organisation.ids.reader ?? ''] });
  expect(await sendReminders(organisation.app)).toBe(1);
  const rowsOf = (await desk(organisation.app, await organisation.as('reader'))).rows.filter(
    (one) => one.number === number,
  );
  expect(rowsOf.map((row) => row.detail).join(' ')).toContain('Permit ends is 20 Dec 2026');
});
