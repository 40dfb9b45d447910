import type { SideContent } from '@kanonos/contract';
import { expect, test } from 'vitest';
import { factsApart, sideName } from './sides.ts';

const side = (facts: Record<string, string>) =>
  ({ facts: Object.entries(facts).map(([label, value]) => ({ label, value })) }) as SideContent;

test('facts that both sides state alike are left out, what one does not state is a dash', () => {
  expect(
    factsApart(
      side({ Title: 'Grip', Limit: '4.2 kN', Tool: 'G-11' }),
      side({ Title: 'Grip', Limit: '6.8 kN', Place: 'LT' }),
    ),
  ).toEqual([
    { label: 'Limit', old: '4.2 kN', new: '6.8 kN' },
    { label: 'Tool', old: 'G-11', new: '–' },
    { label: 'Place', old: '–', new: 'LT' },
  ]);
  expect(factsApart(side({ Limit: '1' }), side({ Limit: '1' }))).toEqual([]);
});

test('a side is named by its revision and version, one without a label by its version alone', () => {
  expect(sideName({ label: 'C', n: 2 })).toBe('C, version 2');
  expect(sideName({ label: '', n: 1 })).toBe('version 1');
});
