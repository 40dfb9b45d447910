import { screen } from '@testing-library/react';
import { beforeEach, describe, expect, it, vi } from 'vitest';
import { renderPage } from '../../testing/renderPage.tsx';
import { usePanes } from './usePanes.ts';

const Shown = () => {
  const [panes, toggle] = usePanes();
  return (
    <>
      <output>{JSON.stringify(panes)}</output>
      <input aria-label="words" />
      <button type="button" onClick={() => toggle('preview')}>
        Preview
      </button>
    </>
  );
};
const panes = () => JSON.parse(screen.getByRole('status').textContent ?? '{}');
const screenOf = (small: boolean) => vi.stubGlobal('matchMedia', () => ({ matches: small }));

describe('the panes of the register', () => {
  beforeEach(() => localStorage.clear());

  it('are closed and opened by a key, and remembered in the browser', async () => {
    screenOf(false);
    const { user, unmount } = renderPage(<Shown />);
    expect(panes()).toEqual({ filters: true, preview: true, compact: false });
    await user.keyboard('fc');
    await user.click(screen.getByRole('button', { name: 'Preview' }));
    expect(panes()).toEqual({ filters: false, preview: false, compact: true });
    unmount();
    renderPage(<Shown />);
    expect(panes()).toEqual({ filters: false, preview: false, compact: true });
  });

  it('leave the keys to a person who types', async () => {
    screenOf(false);
    const { user } = renderPage(<Shown />);
    await user.type(screen.getByLabelText('words'), 'fpc');
    expect(panes()).toEqual({ filters: true, preview: true, compact: false });
  });

  it('begin closed on a small screen, which does not change what a large one remembers', async () => {
    screenOf(true);
    const { user } = renderPage(<Shown />);
    expect(panes()).toMatchObject({ filters: false, preview: false });
    await user.keyboard('f');
    expect(panes().filters).toBe(true);
    expect(localStorage.length).toBe(0);
  });
});
