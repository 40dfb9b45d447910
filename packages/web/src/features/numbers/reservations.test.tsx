import { api } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { typeInfo } from '../../testing/fixtures.ts';
import { at, lastSent, renderPage } from '../../testing/renderPage.tsx';
import { Reservations } from './Reservations.tsx';

const reservation = {
  id: 'r1',
  type: { id: 't1', code: 'DWG', name: 'Drawing' },
  first: 'THR-DWG-0010',
  last: 'THR-DWG-0014',
  count: 5,
  open: 3,
  forPerson: { id: 'p2', name: 'Lin Sato' },
  by: { id: 'p1', name: 'Otto Brandvik' },
  at: '2026-11-01T08:00:00.000Z',
  reason: 'Drawings of the new station',
  until: '2026-12-31',
  endedWhy: null,
};
const draw = (reservations: object[], voids: object[] = [], answers = {}) =>
  renderPage(<Reservations />, {
    [at(api.numbers.reservations)]: { reservations, voids },
    [at(api.people.names)]: { people: [{ id: 'p2', name: 'Lin Sato', department: 'Engineering' }] },
    [at(api.documents.types)]: { types: [typeInfo({ id: 't1', code: 'DWG', name: 'Drawing' })] },
    [at(api.documents.folders)]: { folders: [{ id: 'f1', parentId: null, name: 'Stations', mayAuthor: true }] },
    ...answers,
  });

describe('reserved numbers', () => {
  it('are for somebody until a day; ended ones show why', async () => {
    draw(
      [reservation, { ...reservation, id: 'r0', endedWhy: 'all used' }],
      [{ number: 'THR-DWG-0003', reason: 'Twice' }],
    );
    expect(await screen.findByText('all used')).toBeTruthy();
    expect(screen.getAllByRole('button', { name: 'End reservation' })).toHaveLength(1);
    expect(screen.getByText('31 Dec 2026')).toBeTruthy();
    expect(screen.getByText('THR-DWG-0003')).toBeTruthy();
  });

  it('are none at first', async () => {
    draw([]);
    expect(await screen.findByText('No reservations')).toBeTruthy();
  });

  it('are reserved for a person, with a day and a reason', async () => {
    const { user } = draw([], [], { [at(api.numbers.reserve)]: { first: 'THR-DWG-0020', last: 'THR-DWG-0022' } });
    await user.click(await screen.findByRole('button', { name: 'Reserve numbers' }));
    const dialog = within(screen.getByRole('dialog'));
    const reserve = () => dialog.getByRole<HTMLButtonElement>('button', { name: /^Reserve \d/ });
    await user.selectOptions(dialog.getByLabelText('Type'), await dialog.findByRole('option', { name: /DWG/ }));
    await user.selectOptions(dialog.getByLabelText('Folder'), await dialog.findByRole('option', { name: 'Stations' }));
    await user.clear(dialog.getByLabelText('How many'));
    await user.type(dialog.getByLabelText('How many'), '3');
    await user.type(dialog.getByLabelText('Until'), 'end of year');
    await user.type(dialog.getByLabelText('Reason'), 'New station');
    expect(reserve().disabled).toBe(true);
    await user.click(dialog.getByRole('combobox', { name: 'For' }));
    await user.click(await screen.findByRole('option', { name: /Lin Sato/ }));
    expect(reserve().textContent).toContain('3 numbers');
    await user.click(reserve());
    expect(lastSent()?.body).toMatchObject({
      typeId: 't1',
      folderId: 'f1',
      count: 3,
      forPersonId: 'p2',
      until: '2026-12-31',
      reason: 'New station',
    });
  });

  it('end with a reason; those that are not used become void', async () => {
    const { user } = draw([reservation], [], { [at(api.numbers.endReservation, { id: 'r1' })]: { voided: 3 } });
    await user.click(await screen.findByRole('button', { name: 'End reservation' }));
    const dialog = within(screen.getByRole('dialog'));
    expect(dialog.getByText(/^3 unused numbers? will become void/)).toBeTruthy();
    await user.type(dialog.getByLabelText('Reason'), 'Not built');
    await user.click(dialog.getByRole('button', { name: 'End reservation' }));
    expect(lastSent()?.body).toEqual({ reason: 'Not built' });
  });
});
