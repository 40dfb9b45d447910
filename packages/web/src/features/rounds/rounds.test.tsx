import { api, type OpenRound } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { at, lastSent, renderPage } from '../../testing/renderPage.tsx';
import { barOf, placeOf, shownDays } from './calendarDays.ts';
import { RoundsPage } from './RoundsPage.tsx';
import { isLikelyLate, waitSentence, waitWords } from './waiting.ts';

const person = (id: string, name: string) => ({ id, name });
const uwe = person('u', 'Uwe Marten');
const round = (changes: Partial<OpenRound> = {}): OpenRound => ({
  id: 'r1',
  n: 1,
  documentId: 'd1',
  number: 'THR-RPT-0460',
  title: 'Magnetic rope test, section 3',
  label: 'A',
  mark: 'open',
  type: 'Report',
  adHoc: null,
  startedBy: person('j', 'Joren Adeyemi'),
  startedAt: '2026-11-16T10:00:00.000Z',
  step: 'Review for content',
  stepNumber: 0,
  stepCount: 2,
  due: '2026-11-23',
  overdue: true,
  blockers: [],
  waitingFor: [
    { assignmentId: 'a1', person: uwe, since: '2026-11-16', waitedDays: 9, absentUntil: null, deputy: null },
  ],
  enough: null,
  spans: [{ step: 'Review for content', people: ['Uwe Marten'], from: '2026-11-16', to: null }],
  forecast: { half: '2026-12-02', mostly: '2026-12-04', nearlyAll: '2026-12-08' },
  plannedBy: '2026-11-26',
  mayChange: ['remind', 'reassign', 'take over', 'add person', 'extend', 'skip step', 'cancel'],
  ...changes,
});
const absent = (deputy: { id: string; name: string } | null) =>
  round({
    waitingFor: [
      { assignmentId: 'a1', person: uwe, since: '2026-11-12', waitedDays: 12, absentUntil: '2026-12-14', deputy },
    ],
  });
const ZONE = 'Europe/Vienna';

describe('why a round waits', () => {
  it('is one sentence', () => {
    expect(waitSentence(round(), ZONE)).toBe('Waiting 9 working days for Uwe Marten.');
    expect(waitSentence(absent(null), ZONE)).toBe(
      'Waiting 12 working days for Uwe Marten, absent until 14 Dec without a deputy.',
    );
    expect(waitSentence(absent(person('m', 'Mara Quill')), ZONE)).toContain('with Mara Quill as deputy');
  });

  it('names the blocker where one holds it up', () => {
    const held = round({
      blockers: [{ code: 'blocking_comment', params: { who: 'Lin Sato', text: 'Name the role' } }],
    });
    expect(waitSentence(held, ZONE)).toContain('Lin Sato');
  });

  it('tells step, wait and due day in the line, and how many of several are enough', () => {
    expect(waitWords(round(), ZONE)).toBe('Review for content · for 9 working days · due 23 Nov');
    expect(waitWords(round({ enough: 2 }), ZONE)).toContain('any 2 decide');
    expect(waitWords(absent(null), ZONE)).toContain('absent until 14 Dec, no deputy');
  });
});

describe('likely late', () => {
  const open = { overdue: false, plannedBy: '2026-12-02' };
  it('is a round whose forecast lies after its plan, or whose step is overdue', () => {
    expect(isLikelyLate(round())).toBe(true);
    expect(isLikelyLate(round(open))).toBe(false);
    expect(isLikelyLate(round({ ...open, plannedBy: '2026-12-01' }))).toBe(true);
    expect(isLikelyLate(round({ ...open, forecast: null }))).toBe(false);
  });
});

describe('the calendar', () => {
  // Monday; Tuesday 8 December is a holiday.
  const days = shownDays('2026-11-30', [1, 2, 3, 4, 5], ['2026-12-08']);

  it('shows working days around today', () => {
    expect(days).toHaveLength(16);
    expect(days.slice(0, 7)).toEqual([
      '2026-11-20',
      '2026-11-23',
      '2026-11-24',
      '2026-11-25',
      '2026-11-26',
      '2026-11-27',
      '2026-11-30',
    ]);
    expect(days).not.toContain('2026-12-08');
  });

  it('puts a day without work on the next that has some', () => {
    expect(placeOf('2026-11-28', days)).toBe(6);
    expect(placeOf('2027-03-01', days)).toBe(16);
  });

  it('cuts bars to what is shown, and leaves out what is not', () => {
    expect(barOf('2026-11-02', '2026-11-30', days, true)).toEqual({ from: 0, width: 7 });
    expect(barOf('2026-11-25', '2026-11-26', days, false)).toEqual({ from: 3, width: 1 });
    expect(barOf('2026-11-25', '2026-11-25', days, false)?.width).toBeGreaterThan(0);
    expect(barOf('2026-10-01', '2026-10-05', days, true)).toBeNull();
    expect(barOf('2026-11-30', '2027-06-01', days, true)).toEqual({ from: 6, width: 10 });
  });
});

describe('the page of open rounds', () => {
  const list = (rows: OpenRound[]) => ({
    [at(api.rounds.open)]: {
      rows,
      counts: { all: rows.length, stuck: 1, overdue: 1 },
      next: null,
    },
    [at(api.rounds.awaited)]: { people: [{ id: 'u', name: 'Uwe Marten', rounds: 1 }] },
    [at(api.people.names)]: { people: [{ id: 'm', name: 'Mara Quill', department: 'Quality' }] },
  });
  const second = round({ id: 'r2', number: 'THR-WIN-0322', title: 'Sag', mayChange: ['remind'] });

  it('reassigns what was chosen, with a reason, and names what was refused', async () => {
    const { user } = renderPage(<RoundsPage />, {
      ...list([round(), second]),
      [at(api.rounds.change)]: {
        changed: 0,
        refused: [
          { round: 'r1', number: 'THR-RPT-0460', reasons: ['Uwe Marten has no open assignment in this round.'] },
        ],
      },
    });
    expect(await screen.findByRole('heading', { name: '2 open rounds' })).toBeTruthy();
    await user.click(screen.getByLabelText('Select THR-RPT-0460 A'));
    await user.click(screen.getByRole('button', { name: 'Reassign' }));
    const dialog = within(await screen.findByRole('dialog'));
    const send = dialog.getByRole<HTMLButtonElement>('button', { name: 'Reassign' });
    expect(send.disabled).toBe(true);
    await user.click(dialog.getByLabelText(/^To/));
    await user.click(await dialog.findByText('Mara Quill'));
    expect(send.disabled).toBe(true);
    await user.type(dialog.getByLabelText(/^Reason/), 'Uwe is ill');
    await user.click(send);
    expect(await dialog.findByText('Uwe Marten has no open assignment in this round.')).toBeTruthy();
    expect(lastSent()?.body).toEqual({
      rounds: ['r1'],
      change: { kind: 'reassign', from: 'u', to: 'm' },
      reason: 'Uwe is ill',
    });
  });

  it('offers only what may be done with one of the chosen, and a reminder needs no reason', async () => {
    const { user } = renderPage(<RoundsPage />, {
      ...list([second]),
      [at(api.rounds.change)]: { changed: 1, refused: [] },
    });
    await user.click(await screen.findByLabelText('Select THR-WIN-0322 A'));
    expect(screen.queryByRole('button', { name: 'Reassign' })).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Send reminder' }));
    const dialog = within(await screen.findByRole('dialog'));
    await user.click(dialog.getByRole('button', { name: 'Send reminder' }));
    expect(lastSent()?.body).toMatchObject({ rounds: ['r2'], change: { kind: 'remind' } });
  });

  it('takes no working days that are none', async () => {
    const { user } = renderPage(<RoundsPage />, list([round()]));
    await user.click(await screen.findByLabelText('Select all rounds'));
    await user.click(screen.getByRole('button', { name: 'Extend due day' }));
    const dialog = within(await screen.findByRole('dialog'));
    await user.type(dialog.getByLabelText(/^Reason/), 'Holiday');
    const days = dialog.getByLabelText(/^Working days to add/);
    const send = dialog.getByRole<HTMLButtonElement>('button', { name: 'Extend due day' });
    expect(send.disabled).toBe(false);
    for (const wrong of ['0', '2.5', 'soon', '251']) {
      await user.clear(days);
      await user.type(days, wrong);
      expect(send.disabled, wrong).toBe(true);
    }
  });

  it('says when there is none', async () => {
    renderPage(<RoundsPage />, list([]));
    expect(await screen.findByText('No open rounds')).toBeTruthy();
  });
});
