import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { REVISION_STATES } from '../lifecycle/states.ts';
import {
  type ChangeNoteFacts,
  changeNoteBlockers,
  decideClosing,
  decideRevisingUnder,
  proposeAffected,
  standingOf,
  TASK_LIMITS,
  TASK_STATES,
} from './changeNote.ts';

const note = (more: Partial<ChangeNoteFacts> = {}): ChangeNoteFacts => ({
  number: 'CHN-0007',
  isAgreed: true,
  isClosed: false,
  tasks: [],
  ...more,
});
const codes = (refusals: readonly { code: string }[]) => refusals.map(({ code }) => code);

describe('revising', () => {
  it('needs a note where the type says must, and takes none where it says never', () => {
    expect(codes(decideRevisingUnder('must', undefined))).toEqual(['change_note_needed']);
    expect(codes(decideRevisingUnder('may', undefined))).toEqual([]);
    expect(codes(decideRevisingUnder('never', note()))).toEqual(['change_note_not_used']);
    expect(codes(decideRevisingUnder('must', note({ isAgreed: false })))).toEqual([]);
  });
  it('is not begun under a closed note', () => {
    expect(decideRevisingUnder('may', note({ isClosed: true }))).toEqual([
      { code: 'change_note_closed', params: { number: 'CHN-0007' } },
    ]);
  });
});

describe('the release of a revision under a note', () => {
  const tasks = [
    { before: 'release', state: 'open' },
    { before: 'release', state: 'done' },
    { before: 'closure', state: 'open' },
  ] as const;
  it('waits for what the type demands', () => {
    expect(changeNoteBlockers('nothing', note({ isAgreed: false, tasks }), true)).toEqual([]);
    expect(codes(changeNoteBlockers('agreed', note({ isAgreed: false, tasks }), true))).toEqual([
      'change_note_not_agreed',
    ]);
    expect(changeNoteBlockers('tasks', note({ tasks }), true)).toEqual([
      { code: 'change_note_tasks_open', params: { number: 'CHN-0007', count: 1 } },
    ]);
  });
  it('is refused without a note where one is needed', () => {
    expect(codes(changeNoteBlockers('nothing', undefined, true))).toEqual(['change_note_needed']);
    expect(changeNoteBlockers('tasks', undefined, false)).toEqual([]);
  });
});

describe('an affected document', () => {
  it('stands where its revision under the note stands', () => {
    expect(standingOf({ revisionState: 'in review', noChangeReason: null })).toBe('in work');
    expect(standingOf({ revisionState: 'scheduled', noChangeReason: null })).toBe('approved');
    expect(standingOf({ revisionState: 'superseded', noChangeReason: null })).toBe('in force');
  });
  it('needs no change when somebody said so, until a revision of it is begun', () => {
    expect(standingOf({ revisionState: null, noChangeReason: 'only the cover' })).toBe('no change needed');
    expect(standingOf({ revisionState: 'draft', noChangeReason: 'only the cover' })).toBe('in work');
    expect(standingOf({ revisionState: 'abandoned', noChangeReason: null })).toBe('not begun');
  });
});

describe('closing', () => {
  it('names everything that is open', () => {
    const refusals = decideClosing(note({ isAgreed: false, tasks: [{ before: 'closure', state: 'open' }] }), [
      { number: 'THR-PRO-0118', standing: 'in work' },
      { number: 'THR-PRO-0119', standing: 'in force' },
      { number: 'THR-PRO-0120', standing: 'no change needed' },
    ]);
    expect(codes(refusals)).toEqual(['change_note_not_agreed', 'change_note_tasks_open', 'change_note_document_open']);
    expect(refusals[2]?.params).toEqual({ number: 'THR-PRO-0118', standing: 'in work' });
  });
  it('happens once', () => {
    expect(codes(decideClosing(note({ isClosed: true }), []))).toEqual(['change_note_closed']);
  });
  it('is possible exactly when the note is agreed, no task is open and every document is dealt with', () => {
    const task = fc.record({ before: fc.constantFrom(...TASK_LIMITS), state: fc.constantFrom(...TASK_STATES) });
    const standing = fc
      .record({
        revisionState: fc.option(fc.constantFrom(...REVISION_STATES)),
        noChangeReason: fc.option(fc.constant('none')),
      })
      .map(standingOf);
    fc.assert(
      fc.property(fc.boolean(), fc.array(task), fc.array(standing), (isAgreed, tasks, standings) => {
        const closes =
          isAgreed &&
          tasks.every(({ state }) => state !== 'open') &&
          standings.every((one) => one === 'in force' || one === 'no change needed');
        const affected = standings.map((one, i) => ({ number: `N-${i}`, standing: one }));
        expect(decideClosing(note({ isAgreed, tasks }), affected).length === 0).toBe(closes);
        // What blocks a release blocks the closing, too.
        if (changeNoteBlockers('tasks', note({ isAgreed, tasks }), true).length > 0) expect(closes).toBe(false);
      }),
    );
  });
});

describe('proposed documents', () => {
  it('are named once, by the shortest way, nearest first, without those that are there', () => {
    const found = [
      { id: 'a', way: 'cites', via: 'X', distance: 2 },
      { id: 'b', way: 'linked', via: 'X', distance: 1 },
      { id: 'a', way: 'below', via: 'X', distance: 1 },
      { id: 'c', way: 'cites', via: 'X', distance: 1 },
    ] as const;
    expect(proposeAffected(found, new Set(['c'])).map(({ id, way }) => [id, way])).toEqual([
      ['a', 'below'],
      ['b', 'linked'],
    ]);
  });
});
