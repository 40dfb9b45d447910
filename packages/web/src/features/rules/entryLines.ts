import type { Lookup, LookupEntry } from '@kanonos/contract';
import { keyFrom } from './words.ts';

export type EntryFact = Lookup['facts'][number];

/** The facts of entries by their labels; one that is there keeps its key. */
export const factsFrom = (labels: string, before: readonly EntryFact[]): EntryFact[] =>
  labels
    .split(',')
    .map((label) => label.trim())
    .filter(Boolean)
    .map((label) => before.find((fact) => fact.label === label) ?? { key: keyFrom(label, []), label, kind: 'text' });

/** Entries as lines of a table: code, name, facts, and the word retired. */
export const entriesToLines = (entries: readonly LookupEntry[], facts: readonly EntryFact[]): string =>
  entries
    .map(({ code, name, facts: values, retired }) =>
      [code, name, ...facts.map((fact) => values[fact.key] ?? ''), retired ? 'retired' : '']
        .join('\t')
        .replace(/\t+$/, ''),
    )
    .join('\n');

const entryOf = (cells: readonly string[], facts: readonly EntryFact[]): LookupEntry => {
  const [code = '', name = '', ...rest] = cells;
  const values = facts.flatMap((fact, i) => (rest[i] ? [[fact.key, rest[i]] as const] : []));
  return { code, name: name || code, facts: Object.fromEntries(values), retired: rest[facts.length] === 'retired' };
};

/** Lines back as entries: columns by tab, else by semicolon. */
export const entriesFrom = (text: string, facts: readonly EntryFact[]): LookupEntry[] =>
  text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) =>
      entryOf(
        (line.includes('\t') ? line.split('\t') : line.split(';')).map((part) => part.trim()),
        facts,
      ),
    );

/**
 * Entries of a file whose first row names its columns: code and name, then facts in any order, known ones by label or key, others
 * as new facts. What the list had and the file has not stays, retired, for old documents may bear it.
 */
export const entriesOfTable = (
  [headings = [], ...rows]: readonly (readonly string[])[],
  facts: readonly EntryFact[],
  before: readonly LookupEntry[] = [],
): { facts: EntryFact[]; entries: LookupEntry[] } => {
  const named = headings.slice(2).map((heading) => heading.trim());
  const factOf = (word: string): EntryFact =>
    facts.find(({ key, label }) => [key, label].some((one) => one.toLowerCase() === word.toLowerCase())) ?? {
      key: keyFrom(word, []),
      label: word,
      kind: 'text',
    };
  const columns = named.map((word) => (word && !/^retired$/i.test(word) ? factOf(word) : null));
  const all = [...facts, ...columns.filter((fact) => fact !== null && !facts.includes(fact))] as EntryFact[];
  const read = rows
    .filter((row) => row[0]?.trim())
    .map((row): LookupEntry => {
      const cells = row.map((cell) => cell.trim());
      const values = columns.flatMap((fact, i) =>
        fact && cells[i + 2] ? [[fact.key, cells[i + 2] ?? ''] as const] : [],
      );
      const retired = named.some(
        (word, i) => /^retired$/i.test(word) && /^(retired|yes|true|1)$/i.test(cells[i + 2] ?? ''),
      );
      return { code: cells[0] ?? '', name: cells[1] || (cells[0] ?? ''), facts: Object.fromEntries(values), retired };
    });
  const gone = before.filter((entry) => !read.some(({ code }) => code === entry.code));
  return { facts: all, entries: [...read, ...gone.map((entry) => ({ ...entry, retired: true }))] };
};
