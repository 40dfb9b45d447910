import { describe, expect, test } from 'vitest';
import { describedGroupRules, describedTypeRule } from './described.ts';
import { ruleDifferences } from './difference.ts';

const NAMES: Record<string, string> = { p1: 'Mara Quill', u1: 'Operations', u2: 'Skarn Peak', g1: 'Rescue team' };
const nameOf = (id: string) => NAMES[id] ?? id;
const step = (name: string, assignees: object[], more: object = {}) => ({
  name,
  kind: 'approval',
  assignees,
  rule: { kind: 'all' },
  workingDays: 3,
  onReject: 'draft',
  ...more,
});
const rule = (more: object = {}) => ({
  code: 'PRO',
  route: { name: '', steps: [step('Approve', [{ by: 'owner' }])] },
  routes: {},
  reading: null,
  registerUnitIds: [],
  fallbackApproverId: null,
  origin: null,
  keeping: null,
  ...more,
});
const differ = (before: object, after: object) =>
  ruleDifferences(describedTypeRule({ ...before }, nameOf), describedTypeRule({ ...after }, nameOf));

describe('a change of a type is described', () => {
  test('with the names of units and people, never with their keys', () => {
    expect(differ(rule(), rule({ registerUnitIds: ['u1', 'u2'], fallbackApproverId: 'p1' }))).toEqual([
      { what: 'registerUnitIds', before: '–', after: 'Operations, Skarn Peak' },
      { what: 'fallbackApproverId', before: '–', after: 'Mara Quill' },
    ]);
  });

  test('with what a step says beside who is asked', () => {
    const more = {
      beside: true,
      when: 'change:major',
      escalations: [
        { afterDays: 1, action: 'remind' },
        { afterDays: 6, action: 'hand over', to: { by: 'person', personId: 'p1' } },
      ],
    };
    const after = rule({ route: { name: '', steps: [step('Approve', [{ by: 'owner' }], more)] } });
    expect(differ(rule(), after)).toEqual([
      { what: 'route.steps.Approve.beside', before: '–', after: 'yes' },
      { what: 'route.steps.Approve.when', before: '–', after: 'change:major' },
      {
        what: 'route.steps.Approve.escalations',
        before: '–',
        after: 'after 1 working day remind, after 6 working days hand over Mara Quill',
      },
    ]);
  });

  test('step by step: who is asked, how many must answer, where a no leads', () => {
    const assignees = [
      { by: 'person', personId: 'p1' },
      { by: 'unit', unitId: 'u1' },
      { by: 'owner supervisor' },
      { by: 'field', key: 'lead' },
      { by: 'chosen', minimum: 2 },
      { by: 'chosen', minimum: 0 },
    ];
    const after = rule({
      fields: [{ key: 'lead', label: 'Shift lead' }],
      route: { name: '', steps: [step('Approve', assignees, { rule: { kind: 'k of n', k: 2 }, onReject: 0 })] },
    });
    expect(differ(rule({ fields: [{ key: 'lead', label: 'Shift lead' }] }), after)).toEqual([
      {
        what: 'route.steps.Approve.assignees',
        before: 'the owner',
        after:
          'Mara Quill, Operations, the supervisor of the owner, the person named in Shift lead, chosen by the author, at least 2, chosen by the author',
      },
      { what: 'route.steps.Approve.rule', before: 'all of them', after: '2 of them' },
      { what: 'route.steps.Approve.onReject', before: 'back to draft', after: 'back to step 1' },
    ]);
  });

  test('a step that comes between leaves the others as they were, two of one name are kept apart', () => {
    const before = rule({ route: { name: '', steps: [step('Look', []), step('Look', [{ by: 'owner' }])] } });
    const after = rule({
      route: { name: '', steps: [step('Look', []), step('Weigh', []), step('Look', [{ by: 'owner' }])] },
    });
    expect(differ(before, after).map(({ what }) => what)).toEqual(['route.steps.Weigh']);
    expect(differ(before, rule({ route: { name: '', steps: [step('Look', [])] } })).map(({ what }) => what)).toEqual([
      'route.steps.Look (2)',
    ]);
  });

  test('reading, source and keeping as phrases', () => {
    const reading = { unitIds: ['u1'], workingDays: 5, newJoinerDays: 10, perChange: {}, instructions: '' };
    expect(differ(rule({ reading }), rule({ reading: { ...reading, unitIds: ['u1', 'u2'] } }))).toEqual([
      { what: 'reading.unitIds', before: 'Operations', after: 'Operations, Skarn Peak' },
    ]);
    expect(
      differ(
        rule({ origin: { checkMonths: 1 } }),
        rule({ origin: { checkMonths: 12 }, keeping: { years: 7, from: 'withdrawn' } }),
      ),
    ).toEqual([
      { what: 'origin', before: 'checked every 1 month', after: 'checked every 12 months' },
      { what: 'keeping', before: '–', after: '7 years after it was withdrawn' },
    ]);
  });

  test('the routes of change kinds each for themselves', () => {
    const minor = { name: 'Short', steps: [step('Approve', [{ by: 'unit', unitId: 'u2' }])] };
    const [one] = differ(rule({ routes: { minor } }), rule({ routes: { minor: { ...minor, name: 'Shorter' } } }));
    expect(one).toEqual({ what: 'routes.minor.name', before: 'Short', after: 'Shorter' });
  });
});

test('a group filled by rule is described by its name', () => {
  const before = { groupRules: describedGroupRules([], nameOf) };
  const after = { groupRules: describedGroupRules([{ key: 'g1', unitIds: ['u1', 'u2'] }], nameOf) };
  expect(ruleDifferences(before, after)).toEqual([
    { what: 'groupRules.Rescue team', before: '–', after: 'holds who is in Operations and Skarn Peak' },
  ]);
});
