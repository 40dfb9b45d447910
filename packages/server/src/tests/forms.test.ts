import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { answerRequest, changeRequests } from '../features/changes/index.ts';
import { allForms, saveForm } from '../features/forms/editing.ts';
import { recordAsPdf } from '../features/forms/recordAsPdf.ts';
import {
  discardRecord,
  formForChange,
  formRecord,
  formsOffered,
  recordFile,
  saveRecord,
  sendRecord,
} from '../features/forms/records.ts';
import { codeOf } from './organisation.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const as = (name: string) => organisation.as(name);

type Body = Parameters<typeof saveForm>[2];
const INCIDENT: Body['sections'] = [
  {
    title: 'What happened',
    help: '',
    questions: [
      { key: 'what_happened', label: 'What happened', kind: 'long text', mandatory: true },
      { key: 'hurt', label: 'Was somebody hurt', kind: 'yes/no', mandatory: true },
      { key: 'who', label: 'Who', kind: 'person', mandatory: true, when: 'hurt:yes' },
    ],
  },
];
let made = 0;
const edit = async (more: Partial<Body> = {}) =>
  saveForm(organisation.app, await as('admin'), {
    code: `F${++made}`,
    purpose: 'record',
    name: 'Incident',
    about: '',
    active: true,
    typeIds: [],
    receiverIds: [organisation.units.get('ctrl') ?? ''],
    sections: INCIDENT,
    reason: 'first version',
    ...more,
  });
type Given = Parameters<typeof saveRecord>[2];
const keep = async (name: string, formId: string, answers: Given['answers'], more: Partial<Given> = {}) =>
  saveRecord(organisation.app, await as(name), { formId, answers, keptFiles: [], uploads: [], ...more });
const send = async (name: string, record: { id: string; rowVersion: number }) =>
  sendRecord(organisation.app, await as(name), record.id, { rowVersion: record.rowVersion });
const read = async (name: string, id: string) => formRecord(organisation.app, await as(name), id);

describe('a record', () => {
  test('is kept as a draft with gaps, sent when it is whole, and comes to whom the form says', async () => {
    const form = await edit();
    const draft = await keep('reader', form.id, { what_happened: 'The rope slipped' });
    expect(await codeOf(send('reader', draft))).toBe('field_value_missing');
    expect(await codeOf(read('controller', draft.id))).toBe('not_found');
    expect(await codeOf(keep('reader', form.id, { hurt: 'perhaps' }))).toBe('field_wrong_kind');
    const whole = await keep(
      'reader',
      form.id,
      { what_happened: 'The rope slipped', hurt: false, who: organisation.ids.owner ?? '' },
      { id: draft.id, rowVersion: draft.rowVersion },
    );
    expect(await codeOf(send('reader', draft))).toBe('changed_meanwhile');
    const { number } = await send('reader', whole);
    expect(number).toMatch(/^F\d+-2026-0001$/);
    const record = await read('controller', draft.id);
    // Nobody was hurt: the answer to who it was counts for nothing.
    expect(record.answers).toEqual({ what_happened: 'The rope slipped', hurt: false });
    expect(record.inWords).toEqual([
      {
        title: 'What happened',
        lines: [
          { key: 'what_happened', label: 'What happened', value: 'The rope slipped' },
          { key: 'hurt', label: 'Was somebody hurt', value: 'no' },
        ],
      },
    ]);
    expect(await codeOf(read('reader2', draft.id))).toBe('not_found');
    expect(await codeOf(keep('reader', form.id, {}, { id: draft.id, rowVersion: 3 }))).toBe('record_sent');
    expect((await formsOffered(organisation.app, await as('controller'))).records).toMatchObject([
      { number, first: 'What happened: The rope slipped' },
    ]);
    expect((await formsOffered(organisation.app, await as('reader2'))).records).toEqual([]);
    expect((await organisation.verdict()).kind).toBe('intact');
  });

  test('gets one number each, also when two are sent at once', async () => {
    const form = await edit();
    const drafts = [];
    for (const name of ['reader', 'reader2', 'author'])
      drafts.push({ name, draft: await keep(name, form.id, { what_happened: name, hurt: false }) });
    const numbers = await Promise.all(drafts.map(async ({ name, draft }) => (await send(name, draft)).number));
    expect(new Set(numbers).size).toBe(3);
  });

  test('keeps its files through drafts, and hands them only to whoever may read it', async () => {
    const form = await edit();
    const [a, b] = [
      await organisation.upload('reader', 'one', 'a.txt'),
      await organisation.upload('reader', 'two', 'b.txt'),
    ];
    const first = await keep('reader', form.id, { what_happened: 'x', hurt: false }, { uploads: [a, b] });
    const { files } = await read('reader', first.id);
    expect(files.map(({ name }) => name)).toEqual(['a.txt', 'b.txt']);
    const second = await keep(
      'reader',
      form.id,
      { what_happened: 'x', hurt: false },
      { id: first.id, rowVersion: first.rowVersion, keptFiles: [files[1]?.id ?? ''] },
    );
    await send('reader', second);
    expect((await read('controller', first.id)).files.map(({ name }) => name)).toEqual(['b.txt']);
    const file = async (name: string) => recordFile(organisation.app, await as(name), files[1]?.id ?? '');
    expect(await file('controller')).toMatchObject({ name: 'b.txt', size: 3 });
    expect(await codeOf(file('reader2'))).toBe('not_found');
  });

  test('is printed with its number, its answers and the version of its form', async () => {
    const form = await edit();
    const draft = await keep('reader', form.id, { what_happened: 'The rope slipped', hurt: false });
    const { number } = await send('reader', draft);
    const { bytes, name } = await recordAsPdf(organisation.app, await as('controller'), draft.id);
    expect(name).toBe(`${number}.pdf`);
    const dir = mkdtempSync(join(tmpdir(), 'record-'));
    try {
      writeFileSync(join(dir, 'r.pdf'), bytes);
      const words = execFileSync('pdftotext', ['-layout', join(dir, 'r.pdf'), '-'], { encoding: 'utf8' });
      expect(words).toContain(`Incident ${number}`);
      expect(words).toMatch(/What happened\s+The rope slipped/);
      expect(words).toMatch(/version 1 .* page 1 of 1/);
    } finally {
      rmSync(dir, { recursive: true, force: true });
    }
  });

  test('is discarded by whoever made it, while it is a draft', async () => {
    const form = await edit();
    const draft = await keep('reader', form.id, {});
    const discard = async (name: string) =>
      discardRecord(organisation.app, await as(name), draft.id, { rowVersion: draft.rowVersion });
    expect(await codeOf(discard('controller'))).toBe('not_found');
    await discard('reader');
    expect(await codeOf(read('reader', draft.id))).toBe('not_found');
  });
});

describe('a form', () => {
  test('has versions: what was sent is read by its own, a draft goes on by the newest', async () => {
    const form = await edit({ code: 'VER' });
    const sent = await keep('reader', form.id, { what_happened: 'before', hurt: false });
    await send('reader', sent);
    const draft = await keep('reader', form.id, { what_happened: 'during' });
    const [only] = INCIDENT;
    const next = await edit({
      id: form.id,
      rowVersion: 1,
      code: 'VER',
      reason: 'where it happened',
      sections: [
        {
          ...INCIDENT[0],
          title: 'What and where',
          help: '',
          questions: [...(only?.questions ?? []), { key: 'place', label: 'Where', kind: 'text', mandatory: true }],
        },
      ],
    });
    expect(next.version).toBe(2);
    expect(await codeOf(edit({ id: form.id, rowVersion: 1, code: 'VER' }))).toBe('changed_meanwhile');
    expect((await read('reader', sent.id)).inWords[0]?.title).toBe('What happened');
    const again = await keep(
      'reader',
      form.id,
      { what_happened: 'during', hurt: false },
      { id: draft.id, rowVersion: 1 },
    );
    expect(await codeOf(send('reader', again))).toBe('field_value_missing');
    const mine = (await allForms(organisation.app)).forms.find(({ code }) => code === 'VER');
    expect(mine).toMatchObject({ version: 2, records: 1, versions: [{ n: 2, reason: 'where it happened' }, { n: 1 }] });
  });

  test('that cannot be filled in is refused, as is a code that another has', async () => {
    const form = await edit();
    expect(await codeOf(edit({ sections: [] }))).toBe('form_asks_nothing');
    expect(await codeOf(edit({ code: 'SAME' }))).toBe('done');
    expect(await codeOf(edit({ code: 'SAME' }))).toBe('form_code_taken');
    await edit({ id: form.id, rowVersion: 1, active: false });
    expect(await codeOf(keep('reader', form.id, {}))).toBe('form_not_offered');
  });
});

test('a change is suggested by the form of the type: a record with a number, and a request that is answered as any other', async () => {
  const { number } = await organisation.register('author');
  await organisation.toInForce(number);
  const other = await organisation.register('author', { type: 'MEM' }).catch(() => undefined);
  const form = await edit({
    code: 'CHG',
    purpose: 'change request',
    name: 'Change request',
    typeIds: [organisation.types.get('PRO') ?? ''],
    receiverIds: [],
    sections: [
      {
        title: 'What it costs',
        help: '',
        questions: [{ key: 'cost', label: 'Cost', kind: 'number', mandatory: true, unit: 'EUR', min: 0 }],
      },
    ],
  });
  const offered = await formForChange(organisation.app, await as('reader'), number);
  expect(offered.form?.sections.map(({ title }) => title)).toEqual(['The change', 'What it costs']);
  if (other) expect((await formForChange(organisation.app, await as('controller'), other.number)).form).toBeNull();
  expect(await codeOf(keep('reader', form.id, { what: 'x' }))).toBe('form_needs_document');
  const draft = await keep('reader', form.id, { what: 'The limit is too low', cost: 120 }, { document: number });
  expect((await formForChange(organisation.app, await as('reader'), number)).draft).toBe(draft.id);
  const sent = await send('reader', draft);
  expect(sent).toMatchObject({ number: 'CHG-2026-0001', request: expect.stringMatching(/^CR-2026-/) });
  const { requests } = await changeRequests(organisation.app, await as('controller'));
  const request = requests.find((one) => one.number === sent.request);
  expect(request).toMatchObject({ what: 'The limit is too low', record: draft.id, mayAnswer: true });
  expect((await read('controller', draft.id)).inWords.at(-1)?.lines).toEqual([
    { key: 'cost', label: 'Cost', value: '120 EUR' },
  ]);
  expect(await codeOf(read('reader2', draft.id))).toBe('not_found');
  await answerRequest(organisation.app, await as('controller'), request?.id ?? '', {
    answer: 'reject',
    words: 'It is right',
    into: null,
  });
  expect((await organisation.page('reader', number)).revision.state).toBe('in force');
});
