import { api } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { commandsWith, documentPage, version } from '../../testing/fixtures.ts';
import { at, lastSent, renderPage } from '../../testing/renderPage.tsx';
import { VersionsPanel } from './VersionsPanel.tsx';

const three = [3, 2, 1].map((n) => ({ ...version(), id: `v${n}`, n, shown: `C.${n}`, note: `Note ${n}` }));
const page = documentPage({ versions: three, commands: commandsWith({}), rights: ['see', 'read work', 'manage'] });
const draw = (about = page, answers = {}) =>
  renderPage(<VersionsPanel page={about} />, answers, '/d/THR-PRO-0118?tab=versions');

describe('the versions of a revision', () => {
  it('open by a press on their row, or on their number', async () => {
    const { user, router } = draw();
    await user.click(screen.getByText('Note 2'));
    expect(router.state.location.search).toBe('?v=2');
    await user.click(screen.getByRole('button', { name: 'Open version C.1' }));
    expect(router.state.location.search).toBe('?v=1');
  });

  it('are compared when two are ticked, the older one first; a third takes the place of the first', async () => {
    const { user, router } = draw();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Compare' }).disabled).toBe(true);
    for (const n of [3, 1, 2])
      await user.click(screen.getByRole('checkbox', { name: `Select version C.${n} to compare` }));
    expect(screen.getAllByRole('checkbox', { checked: true })).toHaveLength(2);
    await user.click(screen.getByRole('button', { name: 'Compare version 1 with 2' }));
    expect(router.state.location.pathname).toBe('/d/THR-PRO-0118/compare');
    expect(router.state.location.search).toBe('?old=v1&new=v2');
  });

  it('have the rest in a menu: an older one is made the newest', async () => {
    const { user } = draw(page, {
      [at(api.documents.makeNewest, { document: page.id, version: 'v2' })]: { version: 4 },
    });
    await user.click(screen.getByRole('button', { name: 'Actions of version C.2' }));
    expect(screen.getByRole('menuitem', { name: 'Compare with version 1' })).toBeTruthy();
    expect(screen.queryByRole('menuitem', { name: 'Download' })).toBeNull();
    await user.click(screen.getByRole('menuitem', { name: 'Make newest' }));
    expect(lastSent()?.body).toEqual({ seen: 'seen-1' });
  });

  it('are removed with a reason; the newest is not', async () => {
    const { user } = draw(page, {
      [at(api.documents.removeVersion, { document: page.id, version: 'v1' })]: { freed: 0 },
    });
    await user.click(screen.getByRole('button', { name: 'Actions of version C.3' }));
    expect(screen.queryByRole('menuitem', { name: 'Remove version' })).toBeNull();
    await user.keyboard('{Escape}');
    await user.click(screen.getByRole('button', { name: 'Actions of version C.1' }));
    await user.click(screen.getByRole('menuitem', { name: 'Remove version' }));
    await user.type(await screen.findByLabelText('Reason'), 'Holds names of patients');
    await user.click(screen.getByRole('button', { name: 'Remove version' }));
    await waitFor(() => expect(lastSent()?.body).toEqual({ reason: 'Holds names of patients' }));
  });

  it('of which there is one are not compared', () => {
    draw(documentPage({ versions: [version()], commands: commandsWith({}) }));
    expect(screen.queryByRole('checkbox')).toBeNull();
    expect(screen.queryByRole('button', { name: 'Compare' })).toBeNull();
  });
});
