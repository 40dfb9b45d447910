import { api } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { at, lastSent, refusedWith, renderPage, sent } from '../../testing/renderPage.tsx';
import { toast } from '../../ui/toast.ts';
import { BulkActionsMenu } from './BulkActionsMenu.tsx';

const picked = { ids: ['a', 'b'], filter: null, types: [], number: 2 };
const filter = { revisionScope: 'newest', q: 'rope', reach: 'everywhere' } as const;
const found = { ids: null, filter, types: [], number: 3 } as never;
const each = (done: string[], refused: string[] = []) => ({
  done: done.map((id) => ({ id, number: `THR-PRO-${id}`, made: null })),
  refused: refused.map((id) => ({ id, number: `THR-PRO-${id}`, reasons: ['Somebody has it checked out.'] })),
});
const bodies = (path: string) => sent.filter((one) => one.path === path).map(({ body }) => body);

describe('actions on many documents', () => {
  it('check out the marked ones, hand out their files, and name those that stay', async () => {
    const assign = vi.fn();
    vi.stubGlobal('location', { ...window.location, assign });
    const { user } = renderPage(<BulkActionsMenu picked={picked} clear={() => {}} />, {
      [at(api.bulk.checkOut)]: each(['a'], ['b']),
      [at(api.bulk.downloadPackage)]: { id: 'p1', documents: 1 },
    });
    await user.click(screen.getByRole('button', { name: /^Actions/ }));
    await user.click(screen.getByRole('menuitem', { name: 'Check out' }));
    expect(await screen.findByText('Check out 2 documents')).toBeTruthy();
    await user.type(screen.getByLabelText(/^Purpose/), 'Yearly round');
    await user.click(screen.getByRole('button', { name: 'Check out' }));
    expect(await screen.findByText('Somebody has it checked out.')).toBeTruthy();
    expect(bodies('/api/bulk/check-outs')).toEqual([{ ids: ['a', 'b'], note: 'Yearly round', expectedBack: null }]);
    await waitFor(() => expect(assign).toHaveBeenCalledWith('/api/download-packages/p1'));
    expect(lastSent()?.body).toEqual({ ids: ['a'], filter: null, content: 'work' });
  });

  it('hand out nothing where that is not wanted', async () => {
    const { user } = renderPage(<BulkActionsMenu picked={picked} clear={() => {}} />, {
      [at(api.bulk.checkOut)]: each(['a', 'b']),
    });
    await user.click(screen.getByRole('button', { name: /^Actions/ }));
    await user.click(screen.getByRole('menuitem', { name: 'Check out' }));
    await user.click(await screen.findByRole('checkbox', { name: /^Download their files/ }));
    await user.click(screen.getByRole('button', { name: 'Check out' }));
    expect(await screen.findByText(/2 documents checked out/)).toBeTruthy();
    expect(bodies('/api/download-packages')).toEqual([]);
  });

  it('reach a whole search: its documents are found first', async () => {
    const { user } = renderPage(<BulkActionsMenu picked={found} clear={() => {}} label="Actions on all 3 found" />, {
      [at(api.bulk.ids)]: { ids: ['x', 'y', 'z'] },
      [at(api.bulk.submit)]: each(['x', 'y', 'z']),
    });
    await user.click(screen.getByRole('button', { name: 'Actions on all 3 found' }));
    await user.click(screen.getByRole('menuitem', { name: 'Submit for review' }));
    expect(await screen.findByText(/3 documents/)).toBeTruthy();
    expect(bodies('/api/bulk/ids')).toEqual([{ filter }]);
    await user.click(screen.getByRole('button', { name: 'Submit' }));
    await waitFor(() => expect(bodies('/api/bulk/submit')).toMatchObject([{ ids: ['x', 'y', 'z'] }]));
  });

  it('download what a whole search finds by its filter', async () => {
    const assign = vi.fn();
    vi.stubGlobal('location', { ...window.location, assign });
    const { user } = renderPage(<BulkActionsMenu picked={found} clear={() => {}} />, {
      [at(api.bulk.downloadPackage)]: { id: 'p2', documents: 3 },
    });
    await user.click(screen.getByRole('button', { name: /^Actions/ }));
    await user.click(screen.getByRole('menuitem', { name: 'Download package' }));
    await waitFor(() => expect(assign).toHaveBeenCalledWith('/api/download-packages/p2'));
    expect(lastSent()?.body).toEqual({ ids: null, filter });
  });

  it('that find too many say so', async () => {
    const told = vi.spyOn(toast, 'error').mockReturnValue(undefined);
    const { user } = renderPage(<BulkActionsMenu picked={found} clear={() => {}} />, {
      [at(api.bulk.ids)]: refusedWith(422, 'bulk_too_many', 'At most 20,000 documents.'),
    });
    await user.click(screen.getByRole('button', { name: /^Actions/ }));
    await user.click(screen.getByRole('menuitem', { name: 'Copy as new documents' }));
    await waitFor(() => expect(told).toHaveBeenCalledWith('At most 20,000 documents.'));
    expect(bodies('/api/bulk/ids')).toHaveLength(1);
    expect(screen.queryByRole('dialog')).toBeNull();
  });
});
