import { api, type HistoryEntry } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { documentPage } from '../../testing/fixtures.ts';
import { at, renderPage, sent } from '../../testing/renderPage.tsx';
import { History } from './History.tsx';

const entry = (changes: Partial<HistoryEntry>): HistoryEntry => ({
  at: '2026-11-27T08:00:00.000Z',
  kind: 'decision.given',
  actor: 'Otto Brandvik',
  forPerson: null,
  label: 'C',
  seq: 12,
  text: 'signed: approved as owner',
  comment: null,
  ...changes,
});
const signed = (actor: string, hour: string) =>
  entry({ at: `2026-11-20T${hour}:00:00.000Z`, kind: 'reading.signed', actor, text: 'read and signed', label: 'B' });
const NUMBER = 'THR-PRO-0118';
const draw = (entries: HistoryEntry[], address = '/d/THR-PRO-0118') =>
  renderPage(
    <History number={NUMBER} revisions={documentPage().revisions} />,
    { [at(api.documents.history, { document: NUMBER })]: { entries, next: null } },
    address,
  );

describe('the history of a document', () => {
  it('shows a release with what followed from it as one entry', async () => {
    draw([
      entry({ kind: 'revision.superseded', text: 'superseded B by C', label: 'B' }),
      entry({ kind: 'revision.in-force', text: 'brought C into force' }),
      entry({ kind: 'revision.released', text: 'released it' }),
    ]);
    const item = await screen.findByRole('listitem');
    expect(item.textContent).toMatch(/^Otto Brandvik released itbrought C into forcesuperseded B by C/);
  });

  it('folds alike ones of a day into a line that opens, with the names', async () => {
    const { user } = draw([signed('Lin Sato', '10'), signed('Mara Quill', '09'), signed('Joren Adeyemi', '08')]);
    const line = await screen.findByRole('button', { name: /^3 read and signed/ });
    expect(line.textContent).toContain('Lin Sato, Mara Quill, Joren Adeyemi');
    expect(screen.queryAllByText('read and signed', { exact: false })).toHaveLength(1);
    await user.click(line);
    expect(line.getAttribute('aria-expanded')).toBe('true');
    expect(within(line.parentElement as HTMLElement).getAllByRole('listitem')).toHaveLength(3);
  });

  it('has a section for each revision, with its mark', async () => {
    draw([entry({}), signed('Lin Sato', '10')]);
    expect(await screen.findByRole('region', { name: 'Revision C' })).toBeTruthy();
    expect(within(screen.getByRole('region', { name: 'Revision B' })).getByRole('img')).toBeTruthy();
  });

  it('is filtered by topic, and keeps that in the address', async () => {
    const { user, router } = draw([entry({})]);
    await user.click(await screen.findByRole('button', { name: 'Readings' }));
    expect(router.state.location.search).toBe('?history=readings');
    await user.click(screen.getByRole('button', { name: 'All' }));
    expect(router.state.location.search).toBe('');
  });

  it('reports a topic without events', async () => {
    draw([], '/d/THR-PRO-0118?history=readings');
    expect(await screen.findByText('Nothing of this kind has happened yet.')).toBeTruthy();
  });

  it('fetches older ones when asked', async () => {
    const first = { entries: [entry({})], next: '2026-11-27T08:00:00.000Z' };
    const second = { entries: [entry({ at: '2026-11-20T08:00:00.000Z', text: 'started revision C' })], next: null };
    const { user } = renderPage(<History number={NUMBER} revisions={[]} />, {
      [at(api.documents.history, { document: NUMBER })]: () => (sent.length > 1 ? second : first),
    });
    await user.click(await screen.findByRole('button', { name: 'Show older events' }));
    expect(await screen.findByText('started revision C', { exact: false })).toBeTruthy();
    expect(screen.queryByRole('button', { name: 'Show older events' })).toBeNull();
  });
});
