import { api, DESK_CARDS, type Desk, type DeskRow } from '@kanonos/contract';
import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { at, lastSent, ME, refusedWith, renderPage, sent } from '../../testing/renderPage.tsx';
import { DeskPage } from './DeskPage.tsx';

const row = (changes: Partial<DeskRow>): DeskRow => ({
  kind: 'decide',
  id: 'a1',
  documentId: 'd1',
  number: 'THR-PRO-0118',
  title: 'Grip overhaul',
  label: 'C',
  mark: 'open',
  due: '2026-12-03',
  overdue: false,
  daysOverdue: 0,
  action: 'Decide',
  detail: 'Approval · from Otto Brandvik',
  link: '/tasks/a1',
  primary: true,
  ...changes,
});
const desk = (rows: DeskRow[], changes: Partial<Desk> = {}): Desk => ({
  rows,
  readingMinutes: 9,
  organisation: null,
  checkedOut: [],
  newlyInForce: [],
  attention: [],
  favourites: [],
  recentlyOpened: [],
  cards: [...DESK_CARDS],
  hiddenCards: [],
  ...changes,
});
const draw = (answer: unknown) => renderPage(<DeskPage />, { [at(api.tasks.desk)]: answer });

describe('the Desk', () => {
  it('says how much waits, and how much of it is overdue; what waits for others is not counted', async () => {
    draw(
      desk([
        row({}),
        row({ id: 'a2', kind: 'stuck', overdue: true, daysOverdue: 9, number: 'THR-RPT-0460' }),
        row({ id: 'a3', kind: 'waiting', overdue: true, number: 'THR-PRO-0120' }),
      ]),
    );
    expect(await screen.findByRole('heading', { name: 'Two tasks are waiting for you' })).toBeTruthy();
    expect(screen.getByText('One is overdue.')).toBeTruthy();
    expect(screen.getByText('9 days overdue')).toBeTruthy();
    expect(screen.getByRole('region', { name: 'Waiting for others' })).toBeTruthy();
  });

  it('leads to several tasks at once, those that are ticked', async () => {
    const rows = ['a1', 'a2', 'a3'].map((id, i) => row({ id, number: `THR-PRO-012${i}`, link: `/tasks/${id}` }));
    const { user } = draw(desk(rows));
    await user.click(await screen.findByRole('button', { name: 'Choose several' }));
    await user.click(screen.getByRole('checkbox', { name: 'Choose THR-PRO-0120' }));
    await user.click(screen.getByRole('checkbox', { name: 'Choose THR-PRO-0122' }));
    const lead = screen.getByRole('link', { name: 'Decide 2 tasks together' });
    expect(lead.getAttribute('href')).toBe('/tasks/several?of=a1,a3');
    await user.click(screen.getByRole('button', { name: 'Cancel' }));
    expect(screen.queryByRole('checkbox')).toBeNull();
    cleanup();
    draw(desk(rows.slice(0, 1)));
    await screen.findByRole('heading', { level: 1 });
    expect(screen.queryByRole('button', { name: 'Choose several' })).toBeNull();
  });

  it('asks for the first steps only as an administrator', async () => {
    draw(desk([]));
    await screen.findByRole('heading', { level: 1 });
    expect(sent.map(({ path }) => path)).not.toContain('/api/setup');
    cleanup();
    const state = { steps: [{ step: 'mail', done: false }], isOpen: true, first: null };
    renderPage(<DeskPage />, { [at(api.tasks.desk)]: desk([]), [at(api.setup.state)]: state }, '/', {
      ...ME,
      organisationRights: ['administer'],
    });
    expect(await screen.findByRole('region', { name: 'First steps' })).toBeTruthy();
  });

  it('groups by what takes a thing further, in the order of urgency', async () => {
    draw(
      desk(
        (['review', 'writing', 'stuck', 'decide', 'coming', 'arrived'] as const).map((kind, i) =>
          row({ kind, id: `a${i}`, number: kind === 'arrived' ? '' : `THR-${i}`, title: `${kind} thing` }),
        ),
      ),
    );
    await screen.findByRole('region', { name: 'Stuck' });
    const names = screen.getAllByRole('region').map((region) => region.getAttribute('aria-label'));
    expect(names.filter((name) => name !== null)).toEqual([
      'Stuck',
      'Decide',
      'Comes into force this week',
      'Arrived',
      'Writing',
      'Reviews due',
    ]);
  });

  it('leads on by one command, and by the title to the document', async () => {
    draw(
      desk([
        row({ kind: 'overdue', action: 'Take over', link: '/d/X?command=take%20over%20check-out', daysOverdue: 21 }),
      ]),
    );
    const line = within(await screen.findByRole('region', { name: 'Overdue check-outs' }));
    expect(line.getByRole('link', { name: 'Take over: THR-PRO-0118' }).getAttribute('href')).toContain('take%20over');
    expect(line.getByRole('link', { name: /Grip overhaul/ }).getAttribute('href')).toBe('/d/THR-PRO-0118?rev=work');
    expect(line.getByText('21 days out')).toBeTruthy();
  });

  it('shows system faults to the people who can mend them', async () => {
    draw(desk([], { attention: [{ kind: 'mail', text: '3 mails could not be sent', link: '/mail' }] }));
    expect(await screen.findByRole('heading', { name: 'Nothing is waiting for you' })).toBeTruthy();
    expect(screen.getByRole('link', { name: '3 mails could not be sent' }).getAttribute('href')).toBe('/mail');
  });

  it('that cannot be loaded shows the reason', async () => {
    draw(refusedWith(403, 'right_missing', 'You may not see this.'));
    expect(await screen.findByText('You may not see this.')).toBeTruthy();
  });

  it('shows its cards in the order of the person, without those that are hidden', async () => {
    draw(
      desk([row({}), row({ kind: 'writing', id: 'a2' }), row({ kind: 'waiting', id: 'a3' })], {
        cards: ['waiting', 'writing', ...DESK_CARDS.filter((card) => card !== 'waiting' && card !== 'writing')],
        hiddenCards: ['writing'],
      }),
    );
    await screen.findByRole('region', { name: 'Waiting for others' });
    const names = screen.getAllByRole('region').map((region) => region.getAttribute('aria-label'));
    expect(names).toEqual(['Waiting for others', 'Decide']);
  });

  it('is arranged in a dialog: cards change places or are hidden, but not what needs attention', async () => {
    const user = userEvent.setup();
    draw(desk([row({})]));
    await user.click(await screen.findByRole('button', { name: 'Edit cards' }));
    const dialog = within(await screen.findByRole('dialog'));
    expect(dialog.getByRole('checkbox', { name: 'Needs attention' })).toHaveProperty('disabled', true);
    await user.click(dialog.getByRole('button', { name: 'Move Decide up' }));
    await user.click(dialog.getByRole('checkbox', { name: 'Writing' }));
    await user.click(dialog.getByRole('button', { name: 'Save' }));
    const others = DESK_CARDS.filter((card) => card !== 'decide' && card !== 'stuck');
    expect(lastSent()?.body).toEqual({ cards: ['decide', 'stuck', ...others], hidden: ['writing'] });
  });

  it('keeps favourites in an order of one’s own', async () => {
    const user = userEvent.setup();
    const favourite = (n: number) => ({
      documentId: `00000000-0000-4000-8000-00000000000${n}`,
      number: `THR-${n}`,
      title: 'Grip overhaul',
      label: 'C',
      state: 'in force' as const,
      onHold: n === 2,
    });
    draw(desk([], { favourites: [favourite(1), favourite(2)] }));
    const card = within(await screen.findByRole('region', { name: 'Favourites' }));
    expect(card.getAllByText('On hold: do not use')).toHaveLength(1);
    await user.click(card.getByRole('button', { name: 'Edit' }));
    await user.click(card.getByRole('button', { name: 'Move THR-2 up' }));
    expect(lastSent()?.body).toEqual({
      documentIds: [favourite(2).documentId, favourite(1).documentId],
    });
    await user.click(card.getByRole('button', { name: 'Remove THR-1 from your favourites' }));
    expect(lastSent()?.body).toEqual({ favourite: false });
  });
});
