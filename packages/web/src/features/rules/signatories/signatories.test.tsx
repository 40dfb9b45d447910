import { api, type SignatoryRow } from '@kanonos/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, it } from 'vitest';
import { at, lastSent, renderPage } from '../../../testing/renderPage.tsx';
import { SignatoriesPage } from './SignatoriesPage.tsx';

const MARA = '00000000-0000-7000-8000-000000000001';
const cell = (step: number, assignees: NonNullable<SignatoryRow['cells'][number]>['assignees']) => ({
  step,
  kind: 'approval',
  meaning: 'approved',
  assignees,
});
const row = (typeId: string, code: string, changes: Partial<SignatoryRow> = {}): SignatoryRow => ({
  typeId,
  code,
  name: `Type ${code}`,
  rowVersion: 4,
  documents: 3,
  place: '',
  route: 'Usual',
  planned: null,
  fields: [],
  cells: [cell(0, [{ by: 'owner' }]), cell(1, [{ by: 'person', personId: MARA }])],
  ...changes,
});
const draw = (rows: SignatoryRow[], address = '/rules/signatories') =>
  renderPage(
    <SignatoriesPage />,
    {
      [at(api.people.units)]: { units: [] },
      [at(api.people.names)]: { people: [{ id: MARA, name: 'Mara Quill', department: 'Rope' }] },
      [at(api.signatories.table)]: {
        columns: ['Review', 'Approval'],
        rows,
        people: [{ id: MARA, name: 'Mara Quill' }],
      },
      [at(api.signatories.change)]: { types: 2 },
      [at(api.signatories.history)]: {
        changes: [
          {
            typeId: 't1',
            code: 'PRO',
            at: '2026-11-20T08:00:00.000Z',
            from: null,
            by: 'Dagny Holm',
            reason: 'Owner left',
            differences: [{ what: 'route.steps.Approval.assignees', before: 'Otto Brandvik', after: 'Mara Quill' }],
          },
        ],
      },
    },
    address,
  );
const TWO = [row('t1', 'PRO'), row('t2', 'WIN')];
const table = () => screen.findByRole('table');

it('shows types by steps, and changes a whole column at once', async () => {
  const { user } = draw(TWO);
  const shown = within(await table());
  expect(shown.getAllByText('Mara Quill')).toHaveLength(2);
  await user.click(shown.getByRole('button', { name: 'Select all of Approval' }));
  expect(screen.getByRole('status').textContent).toBe('2 cells chosen');
  await user.click(screen.getByRole('button', { name: 'Change who is asked' }));
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.queryByText('Change who is asked in 2 cells of 2 types')).not.toBeNull();
  await user.selectOptions(dialog.getByLabelText('What happens to those asked now'), 'add');
  await user.selectOptions(dialog.getByLabelText('Add assignee'), 'owner');
  expect(
    (await dialog.findByText('2 steps in 2 types will ask other people.')).closest('section')?.textContent,
  ).toMatch(/PRO.*Mara Quill → Mara Quill, .*WIN.*Mara Quill → Mara Quill, /);
  await user.type(dialog.getByLabelText(/Reason/), 'Owner left');
  await user.click(dialog.getByRole('button', { name: 'Save' }));
  await waitFor(() =>
    expect(lastSent()?.body).toEqual({
      cells: [
        { typeId: 't1', rowVersion: 4, place: '', step: 1 },
        { typeId: 't2', rowVersion: 4, place: '', step: 1 },
      ],
      assignees: [{ by: 'owner' }],
      how: 'add',
      reason: 'Owner left',
      from: null,
    }),
  );
});

it('begins with those who are asked where one cell is changed', async () => {
  const { user } = draw(TWO);
  const shown = within(await table());
  await user.click(shown.getByRole('button', { name: /^Select Approval of WIN every change: Mara Quill/ }));
  await user.click(screen.getByRole('button', { name: 'Change who is asked' }));
  const dialog = within(await screen.findByRole('dialog'));
  expect(dialog.queryByLabelText('What happens to those asked now')).toBeNull();
  expect(dialog.queryByRole('button', { name: 'Remove Mara Quill' })).not.toBeNull();
});

it('leaves alone what waits for its day, and finds by a name', async () => {
  draw(
    [row('t1', 'PRO', { planned: '2027-01-04' }), row('t2', 'WIN', { cells: [cell(0, [{ by: 'owner' }]), null] })],
    '/rules/signatories?q=mara',
  );
  const shown = within(await table());
  expect(shown.queryByText('WIN')).toBeNull();
  expect(shown.getByRole<HTMLButtonElement>('button', { name: /^Select Approval of PRO/ }).disabled).toBe(true);
  expect(shown.queryByText('changes on 4 Jan 2027')).not.toBeNull();
});

it('shows how the routes were changed', async () => {
  draw(TWO, '/rules/signatories?show=history');
  expect(await screen.findByText('Owner left')).toBeTruthy();
  expect(screen.getByText('Otto Brandvik').tagName).toBe('DEL');
});
