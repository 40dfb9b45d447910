import { api, type PlanFolder } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { at, lastSent, renderPage, sent } from '../../testing/renderPage.tsx';
import { FolderRights } from './FolderRights.tsx';
import { SaveFolderDialog } from './SaveFolderDialog.tsx';

const folder: PlanFolder = {
  id: 'f1',
  parentId: null,
  name: 'Carriers',
  code: null,
  state: 'open' as PlanFolder['state'],
  metadata: {},
  effective: {},
  departmentId: null,
  documents: 12,
  mayManage: true,
  rowVersion: 3,
};
const maintenance = { kind: 'unit' as const, id: 'u1', name: 'Maintenance' };
const otto = { kind: 'person' as const, id: 'p1', name: 'Otto Brandvik' };
const grants = {
  own: [{ subject: maintenance, rights: ['see', 'read'], withheld: false }],
  above: [{ folder: 'Plant', grants: [{ subject: otto, rights: [], withheld: true }] }],
  rowVersion: 8,
};
const answers = {
  [at(api.filing.grants, { id: 'f1' })]: grants,
  [at(api.filing.setGrants, { id: 'f1' })]: { rowVersion: 9 },
  [at(api.people.units)]: { units: [{ id: 'u2', kind: 'role', code: 'QM', name: 'Quality manager' }] },
  [at(api.people.names)]: { people: [{ id: 'p2', name: 'Lin Sato', department: 'Engineering' }] },
};

describe('the rights on a folder', () => {
  it('are its own and those from above, each with where it was set', async () => {
    renderPage(<FolderRights folder={folder} />, answers);
    const own = within(await screen.findByRole('row', { name: /Maintenance/ }));
    expect(own.getByText('see, read')).toBeTruthy();
    const above = within(screen.getByRole('row', { name: /Otto Brandvik/ }));
    expect(above.getByText('Plant')).toBeTruthy();
  });

  it('are nobody’s where none is set', async () => {
    renderPage(<FolderRights folder={folder} />, {
      ...answers,
      [at(api.filing.grants, { id: 'f1' })]: { own: [], above: [], rowVersion: 1 },
    });
    expect(await screen.findByText(/Nobody has rights here/)).toBeTruthy();
  });

  it('are edited as a whole, with a reason and what was seen', async () => {
    const { user } = renderPage(<FolderRights folder={folder} />, answers);
    await user.click(await screen.findByRole('button', { name: 'Edit rights' }));
    const dialog = within(screen.getByRole('dialog'));
    await user.selectOptions(
      dialog.getByLabelText(/^Add department, role or group/),
      await dialog.findByRole('option', { name: 'Quality manager' }),
    );
    await user.click(dialog.getByRole('combobox', { name: 'Add person' }));
    await user.click(await screen.findByRole('option', { name: /Lin Sato/ }));
    await user.click(dialog.getByRole('checkbox', { name: /^Withhold all access/ }));
    await user.click(dialog.getAllByRole('button', { name: 'Remove entry' })[0] as HTMLElement);
    expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Save' }).disabled).toBe(true);
    await user.type(dialog.getByLabelText('Reason'), 'New team');
    await user.click(dialog.getByRole('button', { name: 'Save' }));
    expect(lastSent()?.body).toEqual({
      grants: [
        { subject: { kind: 'unit', id: 'u2' }, rights: ['see', 'read'], withheld: false },
        { subject: { kind: 'person', id: 'p2' }, rights: [], withheld: true },
      ],
      reason: 'New team',
      rowVersion: 8,
    });
  });

  it('takes nobody twice', async () => {
    const { user } = renderPage(<FolderRights folder={folder} />, answers);
    await user.click(await screen.findByRole('button', { name: 'Edit rights' }));
    const dialog = within(screen.getByRole('dialog'));
    const add = dialog.getByLabelText(/^Add department, role or group/);
    await user.selectOptions(add, 'all');
    await user.selectOptions(add, 'all');
    expect(dialog.getAllByRole('listitem')).toHaveLength(2);
  });
});

describe('saving a folder', () => {
  const inherit = at(api.filing.inherit, { id: 'f1' });
  const wanted = { name: 'Carriers', parentId: null, metadata: { plant: 'N' } } as never;
  const draw = (changes: object[], close = () => {}) => {
    vi.stubGlobal('crypto', { ...crypto, randomUUID: () => 'bulk-1' });
    return renderPage(
      <SaveFolderDialog folder={folder} wanted={wanted} place={null} saved={() => {}} close={close} />,
      {
        [inherit]: { documents: 2, changes },
        [at(api.filing.change, { id: 'f1' })]: { rowVersion: 4 },
        [at(api.bulk.apply, { id: 'bulk-1' })]: { changed: 2 },
      },
    );
  };
  const follows = [{ metadata: { plant: 'N' }, ids: ['a', 'b'] }];
  const save = async (user: ReturnType<typeof draw>['user']) => {
    await user.type(screen.getByLabelText('Reason'), 'Moved to the north');
    await user.click(screen.getByRole('button', { name: 'Save' }));
  };

  it('says that no document is affected', async () => {
    draw([]);
    expect(await screen.findByText(/^No document has inherited/)).toBeTruthy();
  });

  it('takes documents along that inherited the value, unless unticked', async () => {
    const close = vi.fn();
    const { user, unmount } = draw(follows, close);
    expect(await screen.findByText(/plant becomes N/)).toBeTruthy();
    await save(user);
    await vi.waitFor(() => expect(close).toHaveBeenCalled());
    const applied = () => sent.filter(({ path }) => path.includes('bulk-1'));
    expect(applied()[0]?.body).toMatchObject({ ids: ['a', 'b'], change: { metadata: { plant: 'N' } } });
    unmount();
    sent.length = 0;
    const again = draw(follows, close);
    await again.user.click(await screen.findByRole('checkbox'));
    await save(again.user);
    await vi.waitFor(() => expect(close).toHaveBeenCalledTimes(2));
    expect(applied()).toEqual([]);
  });
});
