import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { KnownRule } from '../numbering/recognise.ts';
import { createScopedRecogniser } from '../numbering/recogniser.ts';
import { parseRule } from '../numbering/rule.ts';
import { type ImportConfiguration, type ImportType, judgeManifest } from './judge.ts';
import { guessColumns, guessDateOrder, type ManifestMapping, readDay, readState, toLine } from './manifest.ts';

const rule = (text: string): KnownRule => {
  const parsed = parseRule(text);
  if (!parsed.ok) throw new Error(text);
  return { id: text, rule: parsed.value, codes: { types: ['PRO', 'FRM'], areas: [], departments: [], fields: {} } };
};
const type = (code: string, more: Partial<ImportType> = {}): ImportType => ({
  id: code,
  code,
  name: `Type ${code}`,
  scheme: { kind: 'letters' },
  fields: [
    { key: 'on', label: 'Tested on', kind: 'date', mandatory: false, level: 'revision' },
    {
      key: 'result',
      label: 'Result',
      kind: 'choice',
      mandatory: false,
      level: 'revision',
      options: [{ code: 'ok', text: 'Passed' }],
    },
  ],
  byRule: true,
  externalPattern: null,
  takeOver: true,
  retired: false,
  ...more,
});
const organisation: ImportConfiguration = {
  today: '2026-11-25',
  types: [
    type('PRO'),
    type('FRM', { takeOver: false }),
    type('SUP', { byRule: false, externalPattern: '[A-Z]{3}.+', scheme: { kind: 'own' } }),
  ],
  folderId: (path) => (path.toLowerCase() === 'area / grips' ? 'f' : undefined),
  personId: (name) => (name.toLowerCase() === 'otto brandvik' ? 'p' : undefined),
  recognise: createScopedRecogniser([rule('THR-{type}-{counter:4}')]),
  lastOf: (scope) => (scope === 'THR-PRO-#' ? 118 : undefined),
  known: (folded) => ({ 'thr-pro-0007': 'taken' as const, 'thr-pro-0009': 'void' as const })[folded],
  file: (name) =>
    name.startsWith('gone')
      ? { kind: 'none' }
      : name.startsWith('twice')
        ? { kind: 'several', paths: ['a/twice.pdf', 'b/twice.pdf'] }
        : { kind: 'one', file: { sha256: 'a'.repeat(64), size: 1, path: name } },
};
const HEADINGS = [
  'Number',
  'Title',
  'Type',
  'Folder',
  'Owner',
  'Rev',
  'Status',
  'Valid from',
  'Until',
  'File',
  'Tested on',
  'Result',
];
const mapping: ManifestMapping = {
  columns: guessColumns(HEADINGS, type('PRO').fields),
  dateOrder: 'dmy',
  typeCode: null,
  folder: 'Area / Grips',
  owner: 'Otto Brandvik',
  state: 'in force',
};
const GOOD = ['THR-PRO-0005', 'Grip test', 'PRO', '', '', 'A', 'released', '01.02.2020', '', 'grip.pdf', '', ''];
const judge = (...rows: Partial<Record<number, string>>[]) =>
  judgeManifest(
    rows.map((row, i) =>
      toLine(
        i + 2,
        GOOD.map((cell, c) => row[c] ?? cell),
        mapping,
      ),
    ),
    mapping,
    organisation,
  );
const codes = (...rows: Partial<Record<number, string>>[]) =>
  judge(...rows).verdicts.map((v) => v.refusals.map((r) => r.code).join(' '));
const [NUMBER, TITLE, TYPE, FOLDER, OWNER, REV, STATUS, FROM, UNTIL, FILE, ON, RESULT] =
  HEADINGS.keys() as unknown as number[];

test('headings in the words of other organisations are understood, each meaning once, fields by their label', () => {
  expect(mapping.columns).toEqual([
    ...['number', 'title', 'type', 'folder', 'owner', 'label', 'state', 'from', 'to', 'file'],
    'field:on',
    'field:result',
  ]);
  expect(guessColumns(['Doc. No.', 'number', 'whatever'], [])).toEqual(['number', null, null]);
});

test.each([
  ['2024-03-05', '2024-03-05'],
  ['05.03.2024', '2024-03-05'],
  ['5/3/24', '2024-03-05'],
  ['20240305', '2024-03-05'],
  ['5 March 2024', '2024-03-05'],
  ['45356', '2024-03-05'],
  ['31.02.2024', undefined],
  ['03.25.2024', undefined],
  ['soon', undefined],
])('the day %s', (text, day) => {
  expect(readDay(text, 'dmy')).toBe(day);
});

test('the order of day and month is seen from a part above 12', () => {
  expect(guessDateOrder(['01/02/2024', '03/25/2024'])).toBe('mdy');
  expect(guessDateOrder(['25.03.2024'])).toBe('dmy');
  expect([readState('Effective'), readState('OBSOLETE'), readState('lost')]).toEqual([
    'in force',
    'superseded',
    undefined,
  ]);
});

test('a line that is right becomes a document with its period', () => {
  const { documents, verdicts, begins } = judge({ [ON as number]: '3.4.2019', [RESULT as number]: 'passed' });
  expect(verdicts[0]).toEqual({ line: 2, refusals: [], warnings: [] });
  expect(documents[0]).toMatchObject({
    number: 'THR-PRO-0005',
    scope: 'THR-PRO-#',
    counter: 5,
    folderId: 'f',
    ownerId: 'p',
    metadata: { on: '2019-04-03', result: 'ok' },
    revisions: [{ label: 'A', state: 'in force', from: '2020-02-01', to: null }],
  });
  expect(begins).toEqual([]);
});

test.each([
  [{ [NUMBER as number]: '' }, 'import_no_number'],
  [{ [NUMBER as number]: 'THR-PRO-118' }, 'import_number_malformed'],
  [{ [NUMBER as number]: 'OLD 7' }, 'import_external_number'],
  [{ [NUMBER as number]: 'THR-PRO-0119' }, 'import_above_counter'],
  [{ [NUMBER as number]: 'THR-PRO-0007' }, 'number_taken'],
  [{ [NUMBER as number]: 'THR-PRO-0009' }, 'import_number_given'],
  [{ [TYPE as number]: 'XXX' }, 'import_type_unknown'],
  [{ [NUMBER as number]: 'THR-FRM-0001', [TYPE as number]: 'FRM' }, 'import_not_allowed'],
  [{ [NUMBER as number]: 'THR-FRM-0001' }, 'import_number_of_type'],
  [{ [FOLDER as number]: 'Nowhere' }, 'import_folder_unknown'],
  [{ [OWNER as number]: 'Nobody' }, 'import_person_unknown'],
  [{ [REV as number]: 'I' }, 'label_not_of_scheme'],
  [{ [STATUS as number]: 'lost' }, 'import_state_unknown'],
  [{ [FROM as number]: '' }, 'import_no_from'],
  [{ [FROM as number]: '02/30/2020' }, 'import_date'],
  [{ [FROM as number]: '01.02.2030' }, 'import_day_ahead'],
  [{ [FILE as number]: 'gone.pdf' }, 'import_file_missing'],
  [{ [FILE as number]: 'twice.pdf' }, 'import_file_several'],
  [{ [FILE as number]: '' }, 'import_no_file'],
  [{ [TITLE as number]: '' }, 'import_no_title'],
  [{ [STATUS as number]: 'superseded' }, 'import_last_superseded'],
  [{ [STATUS as number]: 'withdrawn' }, 'import_no_end'],
  [{ [STATUS as number]: 'withdrawn', [UNTIL as number]: '01.01.2019' }, 'import_days_order'],
  [{ [ON as number]: 'never' }, 'field_wrong_kind'],
  [{ [NUMBER as number]: 'THR-PRO-0002', [TYPE as number]: 'SUP', [REV as number]: '2' }, 'number_matches_own_rule'],
])('a line with a fault is refused with its reason: %j', (row, code) => {
  expect(codes(row)).toEqual([code]);
});

test('several revisions of a number come in the order of their labels and end where the next one begins', () => {
  const { documents, verdicts } = judge(
    { [REV as number]: 'C', [FROM as number]: '01.02.2022' },
    { [REV as number]: 'A', [STATUS as number]: 'old', [FROM as number]: '01.02.2018' },
    { [REV as number]: 'B', [STATUS as number]: 'replaced', [FROM as number]: '01.02.2020' },
  );
  expect(verdicts.flatMap((v) => v.refusals)).toEqual([]);
  expect(documents[0]?.revisions.map(({ label, from, to, line }) => [label, from, to, line])).toEqual([
    ['A', '2018-02-01', '2020-02-01', 3],
    ['B', '2020-02-01', '2022-02-01', 4],
    ['C', '2022-02-01', null, 2],
  ]);
});

test('a document comes in whole or not at all, and a line twice is named with the first one', () => {
  const old = { [REV as number]: 'A', [STATUS as number]: 'old' };
  expect(codes({ ...old, [FILE as number]: 'gone' }, { [REV as number]: 'B' })).toEqual([
    'import_file_missing',
    'import_other_line',
  ]);
  const { verdicts } = judge({}, {});
  expect(verdicts.map((v) => v.refusals[0])).toMatchObject([
    { code: expect.stringMatching(/import/) },
    { code: expect.stringMatching(/import/) },
  ]);
  expect(codes({ [REV as number]: 'A' }, { [REV as number]: 'B', [STATUS as number]: 'old' })).toEqual([
    'import_state_order',
    'import_last_superseded',
  ]);
});

test('a scope that has not begun would begin after the highest imported number', () => {
  const fresh = { ...organisation, lastOf: () => undefined };
  const lines = ['THR-PRO-0003', 'THR-PRO-0040', 'THR-PRO-0011'].map((number, i) =>
    toLine(i + 2, GOOD.with(0, number), mapping),
  );
  expect(judgeManifest(lines, mapping, fresh).begins).toEqual([{ scope: 'THR-PRO-#', last: 40 }]);
});

test('whatever the cells contain, every line gets a verdict and no document comes from a refused one', () => {
  const cell = fc.oneof(
    fc.constantFrom('', 'A', 'B', 'PRO', 'THR-PRO-0005', 'old', '01.02.2020', 'x.pdf'),
    fc.string({ maxLength: 20 }),
  );
  fc.assert(
    fc.property(fc.array(fc.array(cell, { minLength: 12, maxLength: 12 }), { maxLength: 12 }), (rows) => {
      const plan = judgeManifest(
        rows.map((row, i) => toLine(i + 2, row, mapping)),
        mapping,
        organisation,
      );
      expect(plan.verdicts.map((v) => v.line)).toEqual(rows.map((_, i) => i + 2));
      const refused = new Set(plan.verdicts.filter((v) => v.refusals.length).map((v) => v.line));
      const taken = plan.documents.flatMap((d) => d.revisions.map((r) => r.line));
      expect(taken.some((line) => refused.has(line))).toBe(false);
      expect(taken.length + refused.size).toBe(rows.length);
    }),
  );
});
