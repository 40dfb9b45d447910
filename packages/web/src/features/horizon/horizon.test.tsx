import { type AnswerOf, api, type HorizonItem } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { at, lastSent, renderPage } from '../../testing/renderPage.tsx';
import { HorizonPage } from './HorizonPage.tsx';
import { LevelDialog } from './LevelDialog.tsx';

const item = (changes: Partial<HorizonItem>): HorizonItem => ({
  id: 'i1',
  kind: 'review',
  day: '2026-12-10',
  overdue: false,
  documentId: 'd1',
  number: 'THR-SPC-0037',
  title: 'Radio on the line',
  label: 'B',
  mark: 'in force',
  person: { id: 'l', name: 'Lin Sato' },
  people: 1,
  what: '',
  minutes: 60,
  ...changes,
});
const answer = (
  items: HorizonItem[],
  changes: Partial<AnswerOf<typeof api.horizon.show>> = {},
): AnswerOf<typeof api.horizon.show> => ({
  from: '2026-11-28',
  until: '2027-01-28',
  mayAll: true,
  items,
  weeks: [{ week: '2026-11-23', reading: 30, review: 60 }],
  isCut: false,
  ...changes,
});
const page = (given: unknown, address = '/horizon') =>
  renderPage(
    <HorizonPage />,
    { [at(api.horizon.show)]: given as never, [at(api.people.units)]: { units: [] } },
    address,
  );

describe('the horizon', () => {
  it('says what comes due, when, by whom, and leads to where it is done', async () => {
    page(
      answer([
        item({ id: 'i0', day: '2026-11-20', overdue: true, number: 'THR-FRM-0020', title: 'Drill record' }),
        item({}),
        item({
          id: 'i2',
          kind: 'reading',
          number: 'THR-PRO-0121',
          title: 'Vertical rescue',
          person: null,
          people: 6,
        }),
        item({ id: 'i3', kind: 'task', number: 'THR-CHN-0002', title: 'Wind stop', what: 'Change the display' }),
      ]),
    );
    expect(await screen.findByRole('heading', { name: '4 things due by 28 Jan 2027' })).toBeTruthy();
    expect(screen.getByText('1 reading, 2 reviews, 1 task')).toBeTruthy();
    const rows = within(screen.getByRole('list', { name: 'Horizon' })).getAllByRole('listitem');
    expect(rows[0]?.textContent).toContain('Review, overdue');
    expect(rows[1]?.querySelector('a')?.getAttribute('href')).toBe('/d/THR-SPC-0037/review');
    expect(rows[2]?.textContent).toContain('6 people');
    expect(rows[3]?.querySelector('a')?.getAttribute('href')).toBe('/d/THR-CHN-0002?tab=change');
    expect(rows[3]?.textContent).toContain('Change the display');
  });

  it('keeps whose and how far ahead in its address', async () => {
    const { user, router } = page(answer([item({})]));
    await user.click(await screen.findByRole('button', { name: 'Organisation' }));
    await user.selectOptions(screen.getByLabelText('Look ahead'), 'half a year');
    await vi.waitFor(() => expect(router.state.location.search).toBe('?whose=all&ahead=6'));
    expect(screen.getByLabelText('Person')).toBeTruthy();
  });

  it("offers only one's own where one answers for nothing else", async () => {
    page(answer([item({})], { mayAll: false }));
    await screen.findByRole('list', { name: 'Horizon' });
    expect(screen.queryByRole('button', { name: 'Organisation' })).toBeNull();
  });

  it('says that nothing comes due', async () => {
    page(answer([]));
    expect(await screen.findByText('Nothing comes due')).toBeTruthy();
  });
});

describe('levelling', () => {
  const level = {
    moves: [
      {
        documentId: 'd1',
        number: 'THR-SPC-0037',
        title: 'Radio on the line',
        person: { id: 'l', name: 'Lin Sato' },
        from: '2026-12-10',
        to: '2026-12-03',
      },
      { documentId: 'd2', number: 'THR-SPC-0036', title: 'Brake', person: null, from: '2026-12-11', to: '2026-12-18' },
    ],
    overfull: { before: 1, after: 0 },
  };
  const dialog = (moved: unknown, close = vi.fn()) => ({
    close,
    ...renderPage(<LevelDialog asked={{ until: '2027-01-28' }} hours={4} close={close} />, {
      [at(api.horizon.level)]: level,
      [at(api.horizon.move)]: moved as never,
    }),
  });

  it('moves what stays ticked, with a reason', async () => {
    const { user, close } = dialog({ moved: 1, left: [] });
    expect(await screen.findByText('1 week has more than 4 hours; 0 when these reviews are moved.')).toBeTruthy();
    await user.click(screen.getByRole('checkbox', { name: /THR-SPC-0036/ }));
    await user.click(screen.getByRole('button', { name: 'Move 1 review' }));
    expect(lastSent()?.body).toEqual({
      moves: [{ documentId: 'd1', from: '2026-12-10', to: '2026-12-03' }],
      reason: 'Weeks levelled',
    });
    await vi.waitFor(() => expect(close).toHaveBeenCalled());
  });

  it('keeps what could not be moved, with why', async () => {
    const { user, close } = dialog({
      moved: 1,
      left: [{ documentId: 'd2', refusals: [{ code: 'changed_meanwhile' }] }],
    });
    await user.click(await screen.findByRole('button', { name: 'Move 2 reviews' }));
    const list = await screen.findByRole('list', { name: 'Level reviews' });
    await vi.waitFor(() => expect(within(list).getAllByRole('listitem')).toHaveLength(1));
    expect(list.textContent).toContain('THR-SPC-0036');
    expect(list.querySelector('.text-vermilion')?.textContent).not.toBe('');
    expect(close).not.toHaveBeenCalled();
  });
});
