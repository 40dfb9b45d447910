import type { SideContent } from '@kanonos/contract';
import { expect, test } from 'vitest';
import { metadataApart, sideName } from './sides.ts';

const side = (metadata: Record<string, string>) =>
  ({ metadata: Object.entries(metadata).map(([label, value]) => ({ label, value })) }) as SideContent;

test('metadata that both sides state alike are left out, what one does not state is a dash', () => {
  expect(
    metadataApart(
      side({ Title: 'Grip', Limit: '4.2 kN', Tool: 'G-11' }),
      side({ Title: 'Grip', Limit: '6.8 kN', Place: 'LT' }),
    ),
  ).toEqual([
    { label: 'Limit', old: '4.2 kN', new: '6.8 kN' },
    { label: 'Tool', old: 'G-11', new: '–' },
    { label: 'Place', old: '–', new: 'LT' },
  ]);
  expect(metadataApart(side({ Limit: '1' }), side({ Limit: '1' }))).toEqual([]);
});

test('a side is named by its revision and version, one without a label by its version alone', () => {
  expect(sideName({ label: 'C', n: 2 })).toBe('C, version 2');
  expect(sideName({ label: '', n: 1 })).toBe('version 1');
});
