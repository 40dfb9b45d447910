import { addDays } from '@kanonos/core';
import { find, forms, ownStates, roundRules, settings } from '@kanonos/server';
import { type Context, idOf } from './context.ts';

type FormBody = Parameters<typeof forms.saveForm>[2];

const INCIDENT: FormBody['sections'] = [
  {
    title: 'What happened',
    help: 'A near miss counts as well. Nobody is blamed for what is reported here.',
    questions: [
      { key: 'day', label: 'On which day', kind: 'date', mandatory: true },
      {
        key: 'where',
        label: 'Where',
        kind: 'choice',
        mandatory: true,
        options: [
          { code: 'TV', text: 'Tarn Valley' },
          { code: 'MH', text: 'Mid Holt' },
          { code: 'SP', text: 'Skarn Peak' },
          { code: 'line', text: 'On the line' },
        ],
      },
      {
        key: 'tower',
        label: 'At which tower',
        kind: 'number',
        mandatory: true,
        min: 1,
        max: 12,
        when: 'where:line',
      },
      { key: 'what_happened', label: 'What happened', kind: 'long text', mandatory: true },
      { key: 'hurt', label: 'Was somebody hurt', kind: 'yes/no', mandatory: true },
    ],
  },
  {
    title: 'Who was hurt',
    help: '',
    when: 'hurt:yes',
    questions: [
      { key: 'person', label: 'Who', kind: 'text', mandatory: true },
      { key: 'days_off', label: 'Days off work', kind: 'number', mandatory: false, min: 0, max: 365, unit: 'days' },
    ],
  },
  {
    title: 'What was done',
    help: '',
    questions: [
      { key: 'done', label: 'What was done at once', kind: 'long text', mandatory: true },
      { key: 'instruction', label: 'Which document applies', kind: 'document', mandatory: false },
    ],
  },
];

const CHANGE: FormBody['sections'] = [
  {
    title: 'Why it matters',
    help: '',
    questions: [
      {
        key: 'why',
        label: 'Why it has to change',
        kind: 'choice',
        mandatory: true,
        options: [
          { code: 'wrong', text: 'It is wrong' },
          { code: 'unclear', text: 'It is not clear' },
          { code: 'better', text: 'It can be done better' },
        ],
      },
      { key: 'unsafe', label: 'Is it dangerous as it is', kind: 'yes/no', mandatory: true },
      {
        key: 'meanwhile',
        label: 'What do you do until it is changed',
        kind: 'long text',
        mandatory: true,
        when: 'unsafe:yes',
      },
    ],
  },
];

const fill = async (
  c: Context,
  who: string,
  formId: string,
  answers: Parameters<typeof forms.saveRecord>[2]['answers'],
  more: { document?: string; isDraft?: boolean } = {},
) => {
  const viewer = await c.as(who);
  const { document, isDraft } = more;
  const draft = await forms.saveRecord(c.app, viewer, {
    formId,
    answers,
    keptFiles: [],
    uploads: [],
    ...(document ? { document } : {}),
  });
  if (!isDraft) await forms.sendRecord(c.app, viewer, draft.id, { rowVersion: draft.rowVersion });
};

/** Lays forms, their records, rules that start rounds, and own states on the line of time. */
export const planRecordForms = (c: Context): void => {
  const made: Record<string, string> = {};
  c.add(c.at(90, 200), async () => {
    const admin = await c.as('dagny.holm');
    const make = async (body: Omit<FormBody, 'active' | 'reason'>) =>
      (await forms.saveForm(c.app, admin, { ...body, active: true, reason: 'First version' })).id;
    made.incident = await make({
      code: 'INC',
      purpose: 'record',
      name: 'Incident or near miss',
      about: 'For everything that went wrong or nearly did. Quality and safety reads it the same day.',
      typeIds: [],
      receiverIds: [c.units.get('qs') ?? ''],
      sections: INCIDENT,
    });
    made.change = await make({
      code: 'SUG',
      purpose: 'change request',
      name: 'Suggest a change',
      about: 'Whoever answers for the document decides on it and tells you.',
      typeIds: [c.types.get('WIN') ?? '', c.types.get('FRM') ?? ''],
      receiverIds: [],
      sections: CHANGE,
    });
  });
  c.add(c.at(41, 400), () =>
    fill(c, 'uwe.marten', made.incident ?? '', {
      day: addDays(c.day, -42),
      where: 'line',
      tower: 7,
      what_happened: 'The carriage stopped one metre before the tower; a branch lay on the track rope.',
      hurt: false,
      done: 'Stopped the line, took the branch down by hand, went over the tower at one metre a second.',
      instruction: 'THR-PRO-0120',
    }),
  );
  c.add(c.at(6, 400), () =>
    fill(
      c,
      'rafael.osei',
      made.change ?? '',
      {
        place: 'Step 4',
        what: 'The torque is given for the old bolts.',
        proposal: 'Give both, with the mark on the head of the bolt.',
        why: 'wrong',
        unsafe: true,
        meanwhile: 'I ask the workshop before each bolt.',
      },
      { document: 'THR-WIN-0336' },
    ),
  );
  c.add(c.at(1, 300), () =>
    fill(
      c,
      'rafael.osei',
      made.incident ?? '',
      { where: 'MH', what_happened: 'A door of cabin 4 opened by itself while it stood in the station.' },
      { isDraft: true },
    ),
  );
  c.add(c.at(4, 210), async () => {
    const admin = await c.as('dagny.holm');
    const rule = (more: Pick<Parameters<typeof roundRules.saveRoundRule>[2], 'name' | 'occasion' | 'active'>) =>
      roundRules.saveRoundRule(c.app, admin, {
        reason: 'Owners forgot to look at what changed',
        typeId: c.types.get('WIN') ?? '',
        folderId: null,
        condition: null,
        route: 'Information of the owner',
        responsibleId: idOf(c.ids, 'ines.varga'),
        ...more,
      });
    await rule({ name: 'Withdrawn work instructions', occasion: { on: 'withdrawn' }, active: true });
    await rule({ name: 'New work instructions', occasion: { on: 'in force' }, active: false });
  });
  c.add(c.at(58, 200), () => defineOwnStates(c));
  c.add(c.at(0, 420), () => waitForTest(c));
};

/** A draft of Otto Brandvik's that waits for its test. */
const waitForTest = async (c: Context) => {
  const author = await c.as('otto.brandvik');
  const { rows } = await find.registerPage(c.app, author, {
    q: 'type:WIN state:draft owner:"Otto Brandvik"',
    sort: 'number',
    order: 'asc',
    limit: 1,
    revisionScope: 'newest',
    reach: 'everywhere',
  });
  const [draft] = rows;
  if (!draft) throw new Error('the demo has no draft that waits for its test');
  await ownStates.setState(c.app, author, draft.number, {
    seen: '*',
    state: 'waiting for test',
    note: 'Test run on Thursday night',
  });
};

const defineOwnStates = async (c: Context) => {
  const now = await settings.organisationSettings(c.app);
  await settings.changeOrganisation(c.app, await c.as('dagny.holm'), {
    name: now.name,
    week: now.week,
    holidays: now.holidays,
    signingIdleMinutes: now.signingIdleMinutes,
    fallbackApproverId: now.fallbackApprover?.id ?? null,
    rowVersion: now.rowVersion,
    reason: 'It shows on the list what a draft waits for',
    ownStates: [
      { name: 'waiting for test', within: 'draft', unitIds: [] },
      { name: 'with the authority', within: 'in review', unitIds: [c.units.get('dcr') ?? ''] },
    ],
  });
};
