import { api, BULK_AT_ONCE, type BulkTrial } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { fieldOf } from '../../testing/fixtures.ts';
import { lastSent, refusedWith, renderPage, sent } from '../../testing/renderPage.tsx';
import { BulkDialog } from './BulkDialog.tsx';

const types = {
  types: [
    {
      code: 'PRO',
      fields: [
        fieldOf({ kind: 'text', key: 'maker', label: 'Maker' }),
        fieldOf({ kind: 'text', key: 'limit', label: 'Limit', level: 'revision' }),
      ],
    },
    { code: 'DWG', fields: [fieldOf({ kind: 'text', key: 'scale', label: 'Scale' })] },
  ],
};
const trial = (changes: Partial<BulkTrial> = {}): BulkTrial => ({
  ids: ['a', 'b'],
  total: 3,
  unchanged: 1,
  refusedCount: 0,
  refused: [],
  sample: [
    {
      id: 'a',
      number: 'THR-PRO-0001',
      title: 'Rope',
      differences: [{ what: 'Maker', before: '–', after: 'Halden & Roe' }],
    },
  ] as BulkTrial['sample'],
  ...changes,
});
const draw = (answers = {}, close = () => {}) =>
  renderPage(<BulkDialog picked={{ ids: ['a', 'b', 'c'], filter: null, types: ['PRO'], number: 3 }} close={close} />, {
    'GET /api/types': types,
    'GET /api/folders': { folders: [] },
    [`POST ${api.bulk.try.path}`]: trial(),
    ...answers,
  });

describe('changing many documents', () => {
  it('offers the document fields of the types that were picked', async () => {
    draw();
    expect(await screen.findByRole('option', { name: 'Maker' })).toBeTruthy();
    expect(screen.queryByRole('option', { name: 'Limit' })).toBeNull();
    expect(screen.queryByRole('option', { name: 'Scale' })).toBeNull();
    expect(screen.getByText('You see the effect before anything changes.')).toBeTruthy();
  });

  it('shows the effect before anything changes, and waits for a reason', async () => {
    const { user } = draw();
    await user.selectOptions(screen.getByLabelText('Field'), await screen.findByRole('option', { name: 'Maker' }));
    await user.type(screen.getByLabelText(/^Maker/), 'H');
    expect(await screen.findByText('2 documents change')).toBeTruthy();
    expect(screen.getByText(/1 has this value already|has this value already/)).toBeTruthy();
    expect(screen.getByText('Halden & Roe')).toBeTruthy();
    expect(screen.getByText('and 1 more')).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Change 2' }).disabled).toBe(true);
    expect(sent.filter(({ path }) => path.includes('/apply'))).toEqual([]);
    await user.type(screen.getByLabelText('Reason'), 'Taken over by');
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Change 2' }).disabled).toBe(false);
  });

  it('names what cannot be changed, with the reason', async () => {
    const refused = [{ id: 'c', number: 'THR-PRO-0003', title: 'Rope', reasons: ['It is in review.'] }];
    const { user } = draw({
      [`POST ${api.bulk.try.path}`]: trial({ refusedCount: 4, refused: refused as BulkTrial['refused'] }),
    });
    await user.selectOptions(screen.getByLabelText('What to change'), 'Next review date');
    await user.type(screen.getByLabelText('Next review date'), '3 dec');
    expect(await screen.findByText('It is in review.')).toBeTruthy();
    expect(screen.getByText('and 3 more')).toBeTruthy();
    expect(lastSent()?.body).toMatchObject({ change: { reviewOn: '2026-12-03' }, ids: ['a', 'b', 'c'] });
  });

  it('begins anew when something else is to change', async () => {
    const { user } = draw();
    await user.selectOptions(screen.getByLabelText('What to change'), 'Next review date');
    await user.type(screen.getByLabelText('Next review date'), '3 dec');
    expect(await screen.findByText('2 documents change')).toBeTruthy();
    await user.selectOptions(screen.getByLabelText('What to change'), 'Owner');
    expect(screen.queryByText('2 documents change')).toBeNull();
    expect(screen.getByRole('combobox', { name: 'New owner' })).toBeTruthy();
  });

  it('changes several things in one pass, each document once', async () => {
    const { user } = draw();
    await user.selectOptions(screen.getByLabelText('Field'), await screen.findByRole('option', { name: 'Maker' }));
    await user.type(screen.getByLabelText(/^Maker/), 'H');
    await user.click(screen.getByRole('button', { name: 'Add another change' }));
    expect(screen.getAllByRole('option', { name: 'Maker' })).toHaveLength(1);
    await user.selectOptions(screen.getAllByLabelText('What to change')[1] as HTMLElement, 'Next review date');
    await user.type(screen.getByLabelText('Next review date'), '3 dec');
    await waitFor(() =>
      expect(lastSent()?.body).toMatchObject({ change: { metadata: { maker: 'H' }, reviewOn: '2026-12-03' } }),
    );
    await user.click(screen.getByRole('button', { name: 'Remove change 1' }));
    await waitFor(() => expect(lastSent()?.body).toMatchObject({ change: { reviewOn: '2026-12-03' } }));
    expect(lastSent()?.body).not.toHaveProperty('change.metadata');
  });

  it('is sent in parts under one name, so that all of it can be undone', async () => {
    const ids = Array.from({ length: BULK_AT_ONCE + 1 }, (_, i) => `d${i}`);
    const parts: string[] = [];
    const close = vi.fn();
    vi.stubGlobal('crypto', { ...crypto, randomUUID: () => 'bulk-1' });
    const apply = `POST ${api.bulk.apply.path.replace(':id', 'bulk-1')}`;
    const { user } = draw(
      {
        [`POST ${api.bulk.try.path}`]: trial({ ids }),
        [apply]: ({ path, body }: { path: string; body: unknown }) => {
          parts.push(path);
          return { changed: (body as { ids: string[] }).ids.length };
        },
      },
      close,
    );
    await user.selectOptions(screen.getByLabelText('What to change'), 'Next review date');
    await user.type(screen.getByLabelText('Next review date'), '3 dec');
    await user.type(screen.getByLabelText('Reason'), 'All at once');
    await user.click(await screen.findByRole('button', { name: `Change ${ids.length.toLocaleString('en-GB')}` }));
    await waitFor(() => expect(close).toHaveBeenCalled());
    expect(parts).toHaveLength(2);
    expect(new Set(parts).size).toBe(1);
  });

  it('says what went wrong on the way, and stays open', async () => {
    vi.stubGlobal('crypto', { ...crypto, randomUUID: () => 'bulk-1' });
    const close = vi.fn();
    const { user } = draw(
      { [`POST ${api.bulk.apply.path.replace(':id', 'bulk-1')}`]: refusedWith(409, 'x', 'Somebody else was first.') },
      close,
    );
    await user.selectOptions(screen.getByLabelText('What to change'), 'Next review date');
    await user.type(screen.getByLabelText('Next review date'), '3 dec');
    await user.type(screen.getByLabelText('Reason'), 'All at once');
    await user.click(await screen.findByRole('button', { name: 'Change 2' }));
    expect(await screen.findByText('Somebody else was first.')).toBeTruthy();
    expect(close).not.toHaveBeenCalled();
  });
});
