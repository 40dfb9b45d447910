import type { SideContent } from '@kanonos/contract';

/** A side by its revision and version. */
export const sideName = ({ label, n }: { label: string; n: number }): string =>
  `${label ? `${label}, ` : ''}version ${n}`;

/** Facts that two sides state differently. */
export const factsApart = (a: SideContent, b: SideContent) => {
  const labels = [...new Set([...a.facts, ...b.facts].map((fact) => fact.label))];
  const value = (side: SideContent, label: string) => side.facts.find((fact) => fact.label === label)?.value ?? '–';
  return labels
    .map((label) => ({ label, old: value(a, label), new: value(b, label) }))
    .filter((fact) => fact.old !== fact.new);
};
