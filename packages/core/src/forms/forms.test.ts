import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import type { Metadata } from '../metadata/metadata.ts';
import {
  answersInWords,
  askedSections,
  checkAnswers,
  countedAnswers,
  type FormQuestion,
  type FormSection,
  missingAnswers,
  sectionsOf,
} from './form.ts';
import { judgeForm, questionKey, recordNumber } from './judgeForm.ts';

const ask = (key: string, more: Partial<FormQuestion> = {}): FormQuestion => ({
  key,
  label: `The ${key}`,
  kind: 'text',
  mandatory: false,
  ...more,
});
const section = (title: string, questions: FormQuestion[], when?: string): FormSection => ({
  title,
  help: '',
  questions,
  ...(when === undefined ? {} : { when }),
});
const INCIDENT = [
  section('What happened', [
    ask('kind', {
      kind: 'choice',
      options: [
        { code: 'near', text: 'Near miss' },
        { code: 'harm', text: 'Harm' },
      ],
      mandatory: true,
    }),
    ask('hurt', { kind: 'yes/no', when: 'kind:harm', mandatory: true }),
  ]),
  section(
    'Who was hurt',
    [ask('person', { kind: 'person' }), ask('days', { kind: 'number', min: 0, max: 365 })],
    'hurt:yes',
  ),
  section('In the end', [ask('note', { when: 'days>=3', mandatory: true })]),
];
const titles = (answers: Metadata) => askedSections(INCIDENT, answers).map(({ title }) => title);

describe('what a form asks', () => {
  test('follows the answers, through sections and questions', () => {
    expect(titles({})).toEqual(['What happened']);
    expect(askedSections(INCIDENT, { kind: 'near' })[0]?.questions).toHaveLength(1);
    expect(titles({ kind: 'harm', hurt: true })).toEqual(['What happened', 'Who was hurt']);
    expect(titles({ kind: 'harm', hurt: true, days: 5 })).toEqual(['What happened', 'Who was hurt', 'In the end']);
  });

  test('forgets a branch with all that followed from it when it is left', () => {
    const left: Metadata = { kind: 'near', hurt: true, days: 5, note: 'x' };
    expect(titles(left)).toEqual(['What happened']);
    expect(countedAnswers(INCIDENT, left)).toEqual({ kind: 'near' });
    expect(missingAnswers(INCIDENT, left)).toEqual([]);
  });

  test('is complete when every mandatory question that is asked has an answer', () => {
    const missing = (answers: Metadata) => missingAnswers(INCIDENT, answers).map(({ params }) => params?.field);
    expect(missing({})).toEqual(['The kind']);
    expect(missing({ kind: 'harm' })).toEqual(['The hurt']);
    expect(missing({ kind: 'harm', hurt: true, days: 5 })).toEqual(['The note']);
    expect(missing({ kind: 'harm', hurt: false })).toEqual([]);
  });

  test('checks kinds and ranges of what counts, and names what it does not know', () => {
    const wrong = (answers: Metadata) =>
      checkAnswers(INCIDENT, answers).map(({ code, params }) => [code, params?.field]);
    expect(wrong({ kind: 'other' })).toEqual([['field_wrong_kind', 'The kind']]);
    expect(wrong({ kind: 'harm', hurt: true, days: 400 })).toEqual([['field_wrong_kind', 'The days']]);
    expect(wrong({ kind: 'near', days: 400 })).toEqual([]);
    expect(wrong({ colour: 'red' })).toEqual([['field_unknown', 'colour']]);
  });

  test('is told in words, people by name', () => {
    const answers: Metadata = { kind: 'harm', hurt: true, person: 'p1', days: 5 };
    expect(answersInWords(INCIDENT, answers, (id) => (id === 'p1' ? 'Mara Quill' : id))).toEqual([
      {
        title: 'What happened',
        lines: [
          { key: 'kind', label: 'The kind', value: 'Harm' },
          { key: 'hurt', label: 'The hurt', value: 'yes' },
        ],
      },
      {
        title: 'Who was hurt',
        lines: [
          { key: 'person', label: 'The person', value: 'Mara Quill' },
          { key: 'days', label: 'The days', value: '5' },
        ],
      },
    ]);
  });

  test('counts nothing that is not asked, whatever is answered, and counting again changes nothing', () => {
    const value = fc.oneof(
      fc.constantFrom('near', 'harm', ''),
      fc.boolean(),
      fc.integer({ min: -5, max: 400 }),
      fc.constant(null),
    );
    fc.assert(
      fc.property(fc.dictionary(fc.constantFrom('kind', 'hurt', 'person', 'days', 'note'), value), (answers) => {
        const counted = countedAnswers(INCIDENT, answers);
        const asked = askedSections(INCIDENT, answers).flatMap(({ questions }) => questions.map(({ key }) => key));
        expect(Object.keys(counted).every((key) => asked.includes(key))).toBe(true);
        expect(countedAnswers(INCIDENT, counted)).toEqual(counted);
      }),
    );
  });
});

describe('a form that is saved', () => {
  const codes = (sections: FormSection[], purpose: 'record' | 'change request' = 'record') =>
    judgeForm(purpose, sections).map(({ code }) => code);

  test('is fine as it is meant', () => {
    expect(codes(INCIDENT)).toEqual([]);
    expect(codes([], 'change request')).toEqual([]);
    expect(codes([section('More', [ask('cost', { when: 'what:rope' })])], 'change request')).toEqual([]);
  });

  test.each<[string, FormSection[], string]>([
    ['asks nothing', [], 'form_asks_nothing'],
    ['has an empty section', [section('A', [ask('a')]), section('B', [])], 'form_section_empty'],
    ['has a key twice', [section('A', [ask('a'), ask('a')])], 'form_key_twice'],
    ['offers no choice', [section('A', [ask('a', { kind: 'choice' })])], 'form_choice_empty'],
    [
      'offers one twice',
      [
        section('A', [
          ask('a', {
            kind: 'choices',
            options: [
              { code: 'x', text: 'X' },
              { code: 'x', text: 'Y' },
            ],
          }),
        ]),
      ],
      'form_option_twice',
    ],
    ['has a range without numbers', [section('A', [ask('a', { kind: 'number', min: 5, max: 1 })])], 'form_range_empty'],
    ['has a pattern that is none', [section('A', [ask('a', { pattern: '(' })])], 'form_pattern_wrong'],
    ['asks for what comes later', [section('A', [ask('a', { when: 'b:1' }), ask('b')])], 'form_condition_not_earlier'],
    ['asks for itself', [section('A', [ask('a', { when: 'a:1' })])], 'form_condition_not_earlier'],
    [
      'asks for what a document has',
      [section('A', [ask('a'), ask('b', { when: 'folder:x' })])],
      'form_condition_not_earlier',
    ],
    [
      'has a condition that cannot be read',
      [section('A', [ask('a'), ask('b', { when: 'nothing:1' })])],
      'form_condition_unreadable',
    ],
    [
      'has a condition without a field',
      [section('A', [ask('a'), ask('b', { when: 'rope' })])],
      'form_condition_unreadable',
    ],
  ])('is refused where it %s', (_what, sections, code) => {
    expect(codes(sections)).toContain(code);
  });

  test('keeps what every change request asks for itself', () => {
    expect(sectionsOf('change request', { sections: [] })[0]?.questions.map(({ key }) => key)).toEqual([
      'place',
      'what',
      'proposal',
    ]);
    expect(codes([section('A', [ask('what')])], 'change request')).toContain('form_key_twice');
  });

  test('gets keys and numbers by itself', () => {
    expect(questionKey('Verlorene Zeit (Tage)', [])).toBe('verlorene_zeit_tage');
    expect(questionKey('Größe', ['grosse'])).toBe('gro_e');
    expect(questionKey('Note', ['note', 'note_2'])).toBe('note_3');
    expect(questionKey('???', [])).toBe('question');
    expect(recordNumber('INC', 2026, 7)).toBe('INC-2026-0007');
  });
});
