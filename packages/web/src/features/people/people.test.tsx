import { api, type PersonDetail } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { at, lastSent, ME, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { NewPersonDialog } from './NewPersonDialog.tsx';
import { PersonDialog } from './PersonDialog.tsx';

const units = {
  units: [
    { id: 'd1', kind: 'department', code: 'MNT', name: 'Maintenance' },
    { id: 's1', kind: 'site', code: 'N', name: 'North station' },
    { id: 'r1', kind: 'role', code: 'QM', name: 'Quality manager' },
    { id: 'g1', kind: 'group', code: 'FA', name: 'First aiders' },
  ],
};
const known = {
  [at(api.people.units)]: units,
  [at(api.people.names)]: { people: [{ id: 'p2', name: 'Lin Sato', department: 'Engineering' }] },
};

describe('adding a person', () => {
  it('makes the sign-in name from the name until one is typed', async () => {
    const { user } = renderPage(<NewPersonDialog close={() => {}} />, { ...known, [at(api.people.add)]: { id: 'p9' } });
    await user.type(screen.getByLabelText('Name'), 'Zoë Márquez Ruiz');
    expect(screen.getByLabelText<HTMLInputElement>('Sign-in name').value).toBe('zoe.marquez.ruiz');
    await user.type(screen.getByLabelText('Mail address'), 'zoe@thornway.example');
    await user.selectOptions(
      screen.getByLabelText('Department'),
      await screen.findByRole('option', { name: 'Maintenance' }),
    );
    await user.click(screen.getByRole('combobox', { name: 'Supervisor' }));
    await user.click(await screen.findByRole('option', { name: /Lin Sato/ }));
    await user.click(screen.getByRole('button', { name: 'Quality manager' }));
    await user.click(screen.getByRole('button', { name: 'First aiders' }));
    await user.click(screen.getByRole('button', { name: 'Add and send link' }));
    expect(lastSent()?.body).toEqual({
      name: 'Zoë Márquez Ruiz',
      signInName: 'zoe.marquez.ruiz',
      email: 'zoe@thornway.example',
      from: '2026-11-28',
      departmentId: 'd1',
      siteId: null,
      supervisorId: 'p2',
      roleIds: ['r1'],
      groupIds: ['g1'],
    });
  });

  it('reports that the sign-in name is taken, and keeps the rest', async () => {
    const { user } = renderPage(<NewPersonDialog close={() => {}} />, {
      ...known,
      [at(api.people.add)]: refusedWith(409, 'sign_in_name_taken', 'This sign-in name was given before.'),
    });
    await user.type(screen.getByLabelText('Name'), 'Lin Sato');
    await user.type(screen.getByLabelText('Mail address'), 'lin@thornway.example');
    await user.click(screen.getByRole('button', { name: 'Add and send link' }));
    expect(await screen.findByText('This sign-in name was given before.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLInputElement>('Mail address').value).toBe('lin@thornway.example');
  });
});

describe('one person', () => {
  const person = {
    id: 'p1',
    signInName: 'otto.brandvik',
    name: 'Otto Brandvik',
    email: 'otto@thornway.example',
    state: 'active',
    since: '2021-03-01',
    until: null,
    organisationRights: ['people'],
    memberships: [
      { id: 'm1', kind: 'department', name: 'Maintenance', from: '2021-03-01', to: null },
      { id: 'm2', kind: 'role', name: 'Quality manager', from: '2019-01-01', to: '2020-12-31' },
    ],
    rowVersion: 5,
  } as unknown as PersonDetail;
  const draw = (about: PersonDetail = person, answers = {}) =>
    renderPage(<PersonDialog id="p1" close={() => {}} />, {
      ...known,
      [at(api.people.detail, { id: 'p1' })]: about,
      ...answers,
    });

  it('is changed with what was seen; rights wait for an administrator', async () => {
    const { user } = draw(person, { [at(api.people.change, { id: 'p1' })]: { rowVersion: 6 } });
    const name = await screen.findByLabelText('Name');
    const rights = screen.getByRole<HTMLFieldSetElement>('group', { name: 'Organisation-wide rights' });
    expect(rights.disabled).toBe(!ME.organisationRights.includes('administer'));
    await user.clear(name);
    await user.type(name, 'Otto Brandvik-Lee');
    await user.click(screen.getByRole('button', { name: 'Save' }));
    expect(lastSent()?.body).toMatchObject({
      name: 'Otto Brandvik-Lee',
      organisationRights: ['people'],
      rowVersion: 5,
    });
  });

  it('has memberships with their days; those that hold end today', async () => {
    const { user } = draw(person, {
      [at(api.people.endMembership, { id: 'p1', membership: 'm1' })]: {},
    });
    expect(await screen.findByText(/1 Jan 2019/)).toBeTruthy();
    expect(screen.getAllByRole('button', { name: 'End today' })).toHaveLength(1);
    await user.click(screen.getByRole('button', { name: 'End today' }));
    expect(lastSent()?.body).toEqual({ to: '2026-11-28' });
  });

  it('gets a membership of a kind from a day on', async () => {
    const { user } = draw(person, { [at(api.people.setMembership, { id: 'p1' })]: {} });
    const memberships = within(
      (await screen.findByRole('heading', { name: 'Memberships' })).closest('section') as HTMLElement,
    );
    expect(memberships.getByRole<HTMLButtonElement>('button', { name: 'Add' }).disabled).toBe(true);
    await user.selectOptions(memberships.getByLabelText('Kind'), 'role');
    await user.selectOptions(memberships.getByLabelText('Unit'), 'Quality manager');
    await user.clear(memberships.getByLabelText('From'));
    await user.type(memberships.getByLabelText('From'), '1 jan');
    await user.click(memberships.getByRole('button', { name: 'Add' }));
    expect(lastSent()?.body).toEqual({ kind: 'role', refId: 'r1', from: '2027-01-01' });
  });

  it('is deactivated, or gets a new password, only with a reason', async () => {
    const { user } = draw(person, { [at(api.people.deactivate, { id: 'p1' })]: {} });
    const leave = await screen.findByRole<HTMLButtonElement>('button', { name: 'Deactivate' });
    expect(leave.disabled).toBe(true);
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Reset password' }).disabled).toBe(true);
    await user.type(screen.getByLabelText(/^Reason for the reset/), 'Left the company');
    await user.click(leave);
    expect(lastSent()?.body).toEqual({ reason: 'Left the company' });
  });

  it('that has left is not deactivated again', async () => {
    draw({ ...person, state: 'deactivated' as PersonDetail['state'] });
    expect(await screen.findByLabelText('Name')).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Deactivate' })).toBeNull();
  });
});
