import type { RegisterRow } from '@kanonos/contract';
import { expect, test, vi } from 'vitest';
import { keysOf } from './shown.ts';

const rows = ['A', 'B', 'C'].map((number) => ({ number })) as RegisterRow[];
const pressing = (selected: number, key: string, shiftKey = false) => {
  const [select, mark, open, show, preventDefault] = [vi.fn(), vi.fn(), vi.fn(), vi.fn(), vi.fn()];
  const event = { key, shiftKey, preventDefault } as never;
  keysOf({ rows, selected, select, mark, open }, { ArrowDown: 1, ArrowUp: -1, PageDown: 10 }, show)(event);
  return { select, mark, open, show, preventDefault };
};

test('a key steps to another document and shows it, never beyond the first and the last', () => {
  const down = pressing(0, 'ArrowDown');
  expect(down.select).toHaveBeenCalledWith(1);
  expect(down.show).toHaveBeenCalledWith(1);
  expect(down.preventDefault).toHaveBeenCalled();
  expect(pressing(2, 'ArrowDown').select).toHaveBeenCalledWith(2);
  expect(pressing(0, 'ArrowUp').select).toHaveBeenCalledWith(0);
  expect(pressing(0, 'PageDown').select).toHaveBeenCalledWith(2);
});

test('a blank marks, with Shift everything since the last mark; Enter opens', () => {
  expect(pressing(1, ' ').mark).toHaveBeenCalledWith(rows[1], false);
  expect(pressing(1, ' ', true).mark).toHaveBeenCalledWith(rows[1], true);
  expect(pressing(1, 'Enter').open).toHaveBeenCalledWith(rows[1]);
});

test('where nothing is chosen nothing is marked or opened, and other keys are left to the browser', () => {
  for (const key of [' ', 'Enter']) {
    const { mark, open, preventDefault } = pressing(7, key);
    expect([mark, open, preventDefault].every((one) => one.mock.calls.length === 0)).toBe(true);
  }
  expect(pressing(1, 'x').preventDefault).not.toHaveBeenCalled();
});
