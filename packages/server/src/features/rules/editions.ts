import type { Difference, Edition } from '@kanonos/contract';
import { ruleDifferences } from '@kanonos/core';
import type { EditionRow } from './storeEditions.ts';

/** Editions for display, the latest first, each with its differences from the one before it; the first has none. */
export const toEditions = (
  kept: readonly EditionRow[],
  differ: (before: EditionRow['value'], after: EditionRow['value']) => Difference[] = ruleDifferences,
): Edition[] =>
  kept.map((edition, index) => {
    const before = kept[index + 1];
    return {
      n: edition.n,
      at: edition.at.toISOString(),
      by: edition.by_name ?? 'Kanonos',
      reason: edition.reason,
      differences: before ? differ(before.value, edition.value) : [],
    };
  });
