import type { SideContent } from '@kanonos/contract';
import { wording } from './wording.ts';

/** A side by its revision and version. */
export const sideName = ({ label, n }: { label: string; n: number }): string =>
  wording.partVersionN(label ? `${label}, ` : '', n);

/** Metadata that two sides state differently. */
export const metadataApart = (a: SideContent, b: SideContent) => {
  const labels = [...new Set([...a.metadata, ...b.metadata].map((field) => field.label))];
  const value = (side: SideContent, label: string) =>
    side.metadata.find((field) => field.label === label)?.value ?? '–';
  return labels
    .map((label) => ({ label, old: value(a, label), new: value(b, label) }))
    .filter((field) => field.old !== field.new);
};
