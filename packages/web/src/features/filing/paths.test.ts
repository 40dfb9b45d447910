import { expect, test } from 'vitest';
import { pathOf, planPathOf } from './paths.ts';

test('a folder is shown with those above it, from its area down', () => {
  const folders = [
    { id: '1', parentId: null, name: 'Carriers' },
    { id: '2', parentId: '1', name: 'Grips' },
    { id: '3', parentId: '2', name: 'Springs' },
    // What is above it may not be seen.
    { id: '9', parentId: '8', name: 'Alone' },
  ];
  const shown = (id: string, path: typeof pathOf | typeof planPathOf) =>
    (path as (folder: unknown, all: unknown) => string)(
      folders.find((one) => one.id === id),
      folders,
    );
  for (const path of [pathOf, planPathOf]) {
    expect(shown('3', path)).toBe('Carriers / Grips / Springs');
    expect(shown('1', path)).toBe('Carriers');
    expect(shown('9', path)).toBe('Alone');
  }
});
