import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { expandRights, type Right } from '../access/rights.ts';
import {
  allowedCommands,
  COMMANDS,
  type Command,
  decideCommand,
  decidePlannedDay,
  preflight,
  type Situation,
} from './decideCommand.ts';
import { canMove, isReleased, MOVES, REVISION_STATES, type RevisionState } from './states.ts';

const rights = (...given: Right[]) => expandRights(given);
const situation = (more: Partial<Situation> = {}): Situation => ({
  person: { id: 'joren', rights: rights('author'), isAuthor: true, mayCheckInByStep: false },
  work: { state: 'draft', label: 'C', hasOriginal: true, missingFields: [], hasOpenRound: false },
  hasAbandoned: false,
  wasSubmitted: false,
  followsNamingRule: false,
  isWatched: false,
  route: { steps: 2, unfilled: [] },
  releaseWithoutRoute: false,
  oneRevisionOnly: false,
  removed: false,
  ...more,
});
const work = (state: RevisionState, more: object = {}) => ({
  state,
  label: 'C',
  hasOriginal: true,
  missingFields: [],
  hasOpenRound: false,
  ...more,
});
const controller = { id: 'ines', rights: rights('release', 'manage'), isAuthor: false, mayCheckInByStep: false };
const codes = (command: Command, s: Situation) => decideCommand(command, s).map((r) => r.code);

describe('the table of moves', () => {
  test.each([
    ['draft', 'in review', true],
    ['draft', 'in approval', true],
    ['draft', 'approved', false],
    ['in review', 'in approval', true],
    ['in approval', 'approved', true],
    ['approved', 'in force', true],
    ['approved', 'scheduled', true],
    ['scheduled', 'in force', true],
    ['scheduled', 'approved', true],
    ['in force', 'superseded', true],
    ['in force', 'withdrawn', true],
    ['withdrawn', 'in force', true],
    ['superseded', 'in force', false],
    ['in force', 'draft', false],
    ['draft', 'abandoned', true],
  ] as const)('%s → %s: %s', (from, to, possible) => {
    expect(canMove(from, to)).toBe(possible);
  });

  test('nothing leads from a released revision back into work', () => {
    for (const { from, to } of Object.values(MOVES)) {
      if (from.some(isReleased)) expect(isReleased(to)).toBe(true);
    }
  });

  test('every state but draft is reached by some move', () => {
    for (const state of REVISION_STATES) expect(Object.values(MOVES).some((move) => move.to === state)).toBe(true);
  });
});

describe('check-out', () => {
  const out = { personId: 'lin', personName: 'Lin Sato', since: '2026-11-23T09:00:00Z' };
  test('is refused with who has it and since when', () => {
    expect(decideCommand('check out', situation({ checkout: out }))).toEqual([
      { code: 'checked_out', params: { who: 'Lin Sato', since: out.since } },
    ]);
  });
  test('is possible in draft, and in review only where the open step allows it', () => {
    expect(codes('check out', situation())).toEqual([]);
    expect(codes('check out', situation({ work: work('in review') }))).toEqual(['wrong_state']);
    const reviewer = { id: 'mara', rights: rights('read work'), isAuthor: false, mayCheckInByStep: true };
    expect(codes('check out', situation({ person: reviewer, work: work('in review') }))).toEqual([]);
    expect(codes('check out', situation({ person: reviewer }))).toEqual(['right_missing']);
  });
  test('only who has it checks in or gives it up', () => {
    expect(codes('check in', situation({ checkout: out }))).toEqual(['checked_out']);
    expect(codes('check in', situation())).toEqual(['not_checked_out']);
    expect(codes('discard check-out', situation({ checkout: { ...out, personId: 'joren' } }))).toEqual([]);
    expect(codes('take over check-out', situation({ checkout: out }))).toEqual(['right_missing']);
  });
});

describe('sending', () => {
  test('names everything that is missing at once', () => {
    const s = situation({
      work: work('draft', { hasOriginal: false, missingFields: ['carrier'] }),
      route: { steps: 2, unfilled: ['Approve as technical authority'] },
      checkout: { personId: 'joren', personName: 'Joren Adeyemi', since: 'x' },
    });
    expect(codes('submit', s)).toEqual(['checked_out', 'original_missing', 'field_value_missing', 'step_unfilled']);
  });
  test('needs a route', () => {
    expect(codes('submit', situation({ route: { steps: 0, unfilled: [] } }))).toEqual(['route_missing']);
  });
  test('recalling is for authors and controllers while the round is open', () => {
    expect(codes('recall', situation({ work: work('in approval') }))).toEqual([]);
    expect(codes('recall', situation({ person: controller, work: work('in review') }))).toEqual([]);
    expect(codes('recall', situation({ work: work('approved') }))).toEqual(['wrong_state']);
    const reader = { ...controller, rights: rights('read') };
    expect(codes('recall', situation({ person: reader, work: work('in review') }))).toEqual(['right_missing']);
  });
});

describe('release and revising', () => {
  test('needs the right and an approved revision; a draft only where the type allows it', () => {
    expect(codes('release', situation({ work: work('approved') }))).toEqual(['right_missing']);
    expect(codes('release', situation({ person: controller, work: work('approved') }))).toEqual([]);
    expect(codes('release', situation({ person: controller }))).toEqual(['wrong_state']);
    expect(codes('release', situation({ person: controller, releaseWithoutRoute: true }))).toEqual([]);
  });
  test('a planned day lies after today', () => {
    expect(decidePlannedDay('2026-11-25', '2026-11-25').map((r) => r.code)).toEqual(['day_not_after_today']);
    expect(decidePlannedDay('2026-11-26', '2026-11-25')).toEqual([]);
  });
  test('while a revision is in work or scheduled, or a withdrawal planned, nothing is revised', () => {
    const inForce = { label: 'B' };
    expect(codes('revise', situation({ work: undefined, inForce }))).toEqual([]);
    expect(codes('revise', situation({ inForce }))).toEqual(['revision_in_work']);
    expect(codes('revise', situation({ inForce, work: work('scheduled', { plannedOn: '2026-12-07' }) }))).toEqual([
      'revision_scheduled',
    ]);
    expect(codes('revise', situation({ work: undefined, inForce: { label: 'B', withdrawOn: '2026-12-05' } }))).toEqual([
      'withdrawal_planned',
    ]);
    expect(codes('revise', situation({ work: undefined, inForce, oneRevisionOnly: true }))).toEqual([
      'scheme_has_one_revision',
    ]);
    expect(codes('revise', situation({ work: undefined }))).toEqual(['nothing_to_revise']);
  });
  test('withdrawing waits until no revision is in work; reinstating needs the last released one withdrawn', () => {
    expect(codes('withdraw', situation({ person: controller, inForce: { label: 'B' } }))).toEqual(['revision_in_work']);
    expect(codes('withdraw', situation({ person: controller, work: undefined, inForce: { label: 'B' } }))).toEqual([]);
    const withdrawn = { label: 'B', state: 'withdrawn' as const };
    expect(codes('reinstate', situation({ person: controller, work: undefined, lastReleased: withdrawn }))).toEqual([]);
    expect(
      codes(
        'reinstate',
        situation({ person: controller, work: undefined, lastReleased: { ...withdrawn, state: 'superseded' } }),
      ),
    ).toEqual(['nothing_withdrawn']);
  });
});

test('nobody without a right may do anything, and nothing can be done to a removed document', () => {
  const states = fc.constantFrom(...REVISION_STATES);
  fc.assert(
    fc.property(states, fc.boolean(), fc.boolean(), (state, inForce, removed) => {
      const nobody = { id: 'x', rights: rights('read', 'comment'), isAuthor: false, mayCheckInByStep: false };
      const s = situation({
        person: nobody,
        work: work(state),
        removed,
        ...(inForce ? { inForce: { label: 'B' } } : {}),
      });
      return (
        allowedCommands(s).every(({ refusals }) => refusals.length > 0) && COMMANDS.length === allowedCommands(s).length
      );
    }),
  );
});

describe('preflight', () => {
  const clear = {
    signatures: [{ who: 'Lin Sato', meaning: 'approved', intact: true }],
    needsApprovers: 1,
    missingFields: [],
    hasOriginal: true,
    contentMissing: [],
    contentAltered: [],
    blockingComments: [],
    readersNeeded: true,
    readersDefined: true,
    recordUnchanged: true,
    changeNote: [],
  };
  test('is clear when nothing prevents it, and lists what was checked', () => {
    const lines = preflight(clear);
    expect(lines.every((line) => !line.blocks)).toBe(true);
    expect(lines.map((line) => line.check)).toEqual([
      'signatures',
      'record',
      'content',
      'check-out',
      'metadata',
      'comments',
      'readers',
      'change note',
    ]);
  });
  test('names each blocker with the way to clear it', () => {
    const lines = preflight({
      ...clear,
      signatures: [{ who: 'Lin Sato', meaning: 'approved', intact: false }],
      needsApprovers: 2,
      readersDefined: false,
      blockingComments: [{ who: 'Mara Quill', text: 'Table 2 lacks a row' }],
      recordUnchanged: false,
      changeNote: [],
      checkout: { personName: 'Otto Brandvik', since: 'x' },
    }).filter((line) => line.blocks);
    expect(lines.map((line) => line.refusal?.code)).toEqual([
      'signature_altered',
      'signatures_too_few',
      'record_changed',
      'checked_out',
      'blocking_comment',
      'readers_undefined',
    ]);
    expect(lines.every((line) => line.way)).toBe(true);
  });
});

describe('renumbering, renaming, replacing', () => {
  const may = (command: Command, change: Partial<Situation> = {}) =>
    codes(command, situation({ person: controller, ...change }));
  test('a number changes only while nobody else has seen it', () => {
    expect(may('renumber')).toEqual([]);
    expect(may('renumber', { wasSubmitted: true })).toEqual(['number_is_known']);
    expect(may('renumber', { work: work('in review') })).toEqual(['number_is_known']);
    expect(may('renumber', { lastReleased: { label: 'A', state: 'withdrawn' } })).toEqual(['number_is_known']);
    expect(codes('renumber', situation())).toEqual(['right_missing']);
  });
  test('a file is renamed by hand only where no rule names it; content is replaced in a draft that nobody else has out', () => {
    expect(may('rename file', { followsNamingRule: true })).toEqual(['name_by_rule']);
    expect(may('rename file')).toEqual([]);
    const checkout = { personId: 'other', personName: 'Other', since: '2026-11-25' };
    expect(may('replace content', { checkout })).toEqual(['checked_out']);
    expect(may('replace content', { work: work('in approval') })).toEqual(['wrong_state']);
    expect(may('check source')).toEqual(['not_watched']);
  });
});
