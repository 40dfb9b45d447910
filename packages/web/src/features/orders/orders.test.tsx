import { api, type Order } from '@kanonos/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { documentPage } from '../../testing/fixtures.ts';
import { at, lastSent, renderPage } from '../../testing/renderPage.tsx';
import { OrderDocumentDialog, OrderRevisionDialog } from './GiveOrderDialog.tsx';
import { OrderedStrip } from './OrderedStrip.tsx';
import { OrderList } from './OrderList.tsx';

const MARA = { id: '00000000-0000-7000-8000-000000000001', name: 'Mara Quill' };
const OTTO = { id: '00000000-0000-7000-8000-000000000002', name: 'Otto Brandvik' };
const order = (changes: Partial<Order> = {}): Order => ({
  id: 'o1',
  number: 'ORD-2026-0001',
  kind: 'write',
  document: null,
  type: { code: 'PRO', name: 'Procedure' },
  folderId: 'folder-1',
  title: 'Rescue at night',
  reservedNumber: 'THR-PRO-0125',
  why: 'Asked for by the authority',
  assignee: MARA,
  dueOn: '2026-12-12',
  overdue: false,
  by: OTTO,
  at: '2026-11-20T08:00:00.000Z',
  standing: 'not begun',
  endedReason: null,
  mine: true,
  mayChange: false,
  ...changes,
});
const people = { [at(api.people.names)]: { people: [{ ...MARA, department: 'Rope' }] } };
const listed = (...orders: Order[]) => ({ [at(api.orders.list)]: { orders } });

describe('the list of orders', () => {
  it('leads whoever has one to registering it, under the number that is kept', async () => {
    renderPage(<OrderList />, listed(order()));
    const link = await screen.findByRole('link', { name: 'Register it' });
    expect(link.getAttribute('href')).toBe('/new?type=PRO&folder=folder-1&title=Rescue+at+night&number=THR-PRO-0125');
    expect(screen.queryByRole('button', { name: 'Withdraw' })).toBeNull();
  });

  it('is rejected by whoever has it, with a reason', async () => {
    const { user } = renderPage(<OrderList />, { ...listed(order()), [at(api.orders.end, { id: 'o1' })]: {} });
    await user.click(await screen.findByRole('button', { name: 'Reject' }));
    const dialog = within(await screen.findByRole('dialog'));
    await user.type(dialog.getByLabelText(/Reason/), 'No time');
    await user.click(dialog.getByRole('button', { name: 'Reject' }));
    await waitFor(() => expect(lastSent()?.body).toEqual({ how: 'declined', reason: 'No time' }));
  });

  it('is given to somebody else, or withdrawn, by whoever gave it', async () => {
    renderPage(<OrderList />, listed(order({ mine: false, mayChange: true, assignee: OTTO, overdue: true })));
    expect(await screen.findByRole('button', { name: 'Change order' })).toBeTruthy();
    expect(screen.getByRole('button', { name: 'Withdraw' })).toBeTruthy();
    expect(screen.queryByRole('link', { name: 'Register it' })).toBeNull();
    expect(screen.getByText('was due 12 Dec 2026')).toBeTruthy();
  });
});

describe('an order', () => {
  it('of a revision names whom, by when and why', async () => {
    const page = documentPage();
    const { user } = renderPage(<OrderRevisionDialog page={page} close={() => {}} />, {
      ...people,
      [at(api.orders.give)]: { id: 'o2', number: 'ORD-2026-0002' },
    });
    const send = await screen.findByRole<HTMLButtonElement>('button', { name: 'Send order' });
    expect(send.disabled).toBe(true);
    await user.type(screen.getByRole('combobox', { name: /Who writes it/ }), 'Mara');
    await user.click(await screen.findByText('Mara Quill'));
    await user.type(screen.getByLabelText('By'), '12 Dec 2026');
    await user.type(screen.getByLabelText(/^Why/), 'Limit is old');
    await user.click(send);
    await waitFor(() =>
      expect(lastSent()?.body).toEqual({
        kind: 'revise',
        document: page.id,
        assigneeId: MARA.id,
        dueOn: '2026-12-12',
        why: 'Limit is old',
      }),
    );
  });

  it('of a document keeps a number, where its type has a rule for numbers', async () => {
    const folder = { id: 'folder-1', name: 'Rope', code: null, parentId: null, mayAuthor: true, metadata: {} };
    const { user } = renderPage(<OrderDocumentDialog close={() => {}} />, {
      ...people,
      [at(api.documents.types)]: {
        types: [
          { id: 't1', code: 'PRO', name: 'Procedure', numbering: 'THR-PRO-{counter:4}' },
          { id: 't2', code: 'EXT', name: 'Outside', numbering: null },
        ],
      },
      [at(api.documents.folders)]: { folders: [folder] },
    });
    await screen.findByText('PRO Procedure');
    expect(screen.queryByLabelText('Keep a number for it now')).toBeNull();
    await user.selectOptions(screen.getByLabelText('Type'), 't1');
    expect(screen.getByLabelText<HTMLInputElement>('Keep a number for it now').checked).toBe(true);
    await user.selectOptions(screen.getByLabelText('Type'), 't2');
    expect(screen.queryByLabelText('Keep a number for it now')).toBeNull();
  });
});

it('what is ordered and not registered is above the register, folded', async () => {
  const { user } = renderPage(
    <OrderedStrip />,
    listed(
      order(),
      order({ id: 'o2', kind: 'revise', document: { id: 'd', number: 'THR-PRO-0001', label: 'B', mark: 'open' } }),
    ),
  );
  await user.click(await screen.findByText('1 document is ordered and not registered yet'));
  expect(await screen.findByRole('link', { name: 'Rescue at night' })).toBeTruthy();
  expect(screen.getByText('THR-PRO-0125')).toBeTruthy();
});
