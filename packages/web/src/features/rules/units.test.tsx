import { api, type Unit } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { at, lastSent, ME, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { DepartmentSelect } from '../../ui/DepartmentSelect.tsx';
import { EditUnit } from './EditUnit.tsx';

const department: Unit = { id: 'd1', kind: 'department', code: 'MNT', name: 'Maintenance', fallbackApprover: null };
const keeper = { ...ME, organisationRights: ['people'] } as typeof ME;
const names = { 'GET /api/people/names': { people: [{ id: 'p2', name: 'Lin Sato', department: 'Engineering' }] } };

describe('a unit', () => {
  it('is only named to people who may not change it', () => {
    renderPage(<EditUnit unit={{ ...department, fallbackApprover: { id: 'p2', name: 'Lin Sato' } }} />, {}, '/', {
      ...ME,
      organisationRights: [],
    } as typeof ME);
    expect(screen.queryByRole('button')).toBeNull();
    expect(screen.getByText('Fallback approver: Lin Sato')).toBeTruthy();
  });

  it('is renamed, and a department gets a fallback approver', async () => {
    const { user } = renderPage(
      <EditUnit unit={department} />,
      { ...names, [at(api.people.changeUnit, { id: 'd1' })]: {} },
      '/',
      keeper,
    );
    await user.click(screen.getByRole('button', { name: 'Maintenance' }));
    await user.type(screen.getByLabelText('Name'), ' and repair');
    await user.type(screen.getByRole('combobox', { name: /^Fallback approver/ }), 'Lin');
    await user.click(await screen.findByRole('option', { name: /Lin Sato/ }));
    await user.click(screen.getByRole('button', { name: 'Save' }));
    await waitFor(() => expect(lastSent()?.body).toEqual({ name: 'Maintenance and repair', fallbackApproverId: 'p2' }));
  });

  it('other than a department has no fallback approver', async () => {
    const { user } = renderPage(
      <EditUnit unit={{ ...department, kind: 'role', name: 'Quality manager' }} />,
      { [at(api.people.changeUnit, { id: 'd1' })]: refusedWith(404, 'not_found', 'Nothing was found.') },
      '/',
      keeper,
    );
    await user.click(screen.getByRole('button', { name: 'Quality manager' }));
    expect(screen.queryByRole('combobox')).toBeNull();
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(await screen.findByText('Nothing was found.')).toBeTruthy();
  });
});

describe('choosing a department', () => {
  const units = {
    [at(api.people.units)]: { units: [department, { ...department, id: 'r1', kind: 'role', name: 'Quality manager' }] },
  };

  it('offers departments alone, and the words of the empty choice', async () => {
    let chosen: string | null = 'unset';
    const { user } = renderPage(
      <DepartmentSelect label="Department" value={null} onChange={(id) => (chosen = id)} none="as the owner" />,
      units,
    );
    await screen.findByRole('option', { name: 'Maintenance' });
    expect(screen.getAllByRole('option').map((one) => one.textContent)).toEqual(['as the owner', 'Maintenance']);
    await user.selectOptions(screen.getByRole('combobox'), 'Maintenance');
    expect(chosen).toBe('d1');
  });

  it('can be taken back', async () => {
    let chosen: string | null = 'unset';
    const { user } = renderPage(
      <DepartmentSelect label="Department" value="d1" onChange={(id) => (chosen = id)} />,
      units,
    );
    await screen.findByRole('option', { name: 'Maintenance' });
    await user.selectOptions(screen.getByRole('combobox'), '–');
    expect(chosen).toBeNull();
  });
});
