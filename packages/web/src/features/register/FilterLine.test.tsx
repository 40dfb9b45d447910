import { api } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it, vi } from 'vitest';
import { at, renderPage } from '../../testing/renderPage.tsx';
import { FilterLine } from './FilterLine.tsx';

const applied = vi.fn();
const draw = (q = '') =>
  renderPage(<FilterLine q={q} facets={undefined} apply={applied} />, { [at(api.documents.types)]: { types: [] } });
const line = () => screen.getByRole('combobox') as HTMLInputElement;

describe('the filter of the register', () => {
  it('says what it takes, and goes on from a field to its values', async () => {
    const user = userEvent.setup();
    draw();
    await user.click(line());
    expect(screen.getByText(/“or” takes either side/)).toBeTruthy();
    await user.click(screen.getByRole('option', { name: /^owner:/ }));
    expect(line().value).toBe('owner:');
    await user.click(screen.getByRole('option', { name: /^owner:me/ }));
    expect(line().value).toBe('owner:me ');
    expect(applied).not.toHaveBeenCalled();
    await user.keyboard('grip{Enter}');
    expect(applied).toHaveBeenCalledWith('owner:me grip');
  });

  it('is applied by Enter as typed, and emptied', async () => {
    applied.mockClear();
    const user = userEvent.setup();
    draw('type:PRO');
    await user.clear(line());
    await user.keyboard('{Escape}{Enter}');
    expect(applied).toHaveBeenLastCalledWith('');
  });
});
