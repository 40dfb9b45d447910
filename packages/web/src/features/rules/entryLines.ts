import type { Lookup, LookupEntry } from '@kanonos/contract';
import { keyFrom } from './words.ts';

export type EntryField = Lookup['metadata'][number];

/** The metadata of entries by their labels; one that is there keeps its key. */
export const metadataFrom = (labels: string, before: readonly EntryField[]): EntryField[] =>
  labels
    .split(',')
    .map((label) => label.trim())
    .filter(Boolean)
    .map(
      (label) =>
        before.find((fieldValue) => fieldValue.label === label) ?? { key: keyFrom(label, []), label, kind: 'text' },
    );

/** Entries as lines of a table: code, name, metadata, and the word retired. */
export const entriesToLines = (entries: readonly LookupEntry[], metadata: readonly EntryField[]): string =>
  entries
    .map(({ code, name, metadata: values, retired }) =>
      [code, name, ...metadata.map((fieldValue) => values[fieldValue.key] ?? ''), retired ? 'retired' : '']
        .join('\t')
        .replace(/\t+$/, ''),
    )
    .join('\n');

const entryOf = (cells: readonly string[], metadata: readonly EntryField[]): LookupEntry => {
  const [code = '', name = '', ...rest] = cells;
  const values = metadata.flatMap((fieldValue, i) => (rest[i] ? [[fieldValue.key, rest[i]] as const] : []));
  return {
    code,
    name: name || code,
    metadata: Object.fromEntries(values),
    retired: rest[metadata.length] === 'retired',
  };
};

/** Lines back as entries: columns by tab, else by semicolon. */
export const entriesFrom = (text: string, metadata: readonly EntryField[]): LookupEntry[] =>
  text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .filter((line) => line.trim() !== '')
    .map((line) =>
      entryOf(
        (line.includes('\t') ? line.split('\t') : line.split(';')).map((part) => part.trim()),
        metadata,
      ),
    );

/**
 * Entries of a file whose first row names its columns: code and name, then metadata in any order, known ones by label or key, others
 * as new metadata. Entries of the list missing from the file are retired, because documents may use them.
 */
export const entriesOfTable = (
  [headings = [], ...rows]: readonly (readonly string[])[],
  metadata: readonly EntryField[],
  before: readonly LookupEntry[] = [],
): { metadata: EntryField[]; entries: LookupEntry[] } => {
  const named = headings.slice(2).map((heading) => heading.trim());
  const fieldValueOf = (word: string): EntryField =>
    metadata.find(({ key, label }) => [key, label].some((one) => one.toLowerCase() === word.toLowerCase())) ?? {
      key: keyFrom(word, []),
      label: word,
      kind: 'text',
    };
  const columns = named.map((word) => (word && !/^retired$/i.test(word) ? fieldValueOf(word) : null));
  const all = [
    ...metadata,
    ...columns.filter((fieldValue) => fieldValue !== null && !metadata.includes(fieldValue)),
  ] as EntryField[];
  const read = rows
    .filter((row) => row[0]?.trim())
    .map((row): LookupEntry => {
      const cells = row.map((cell) => cell.trim());
      const values = columns.flatMap((fieldValue, i) =>
        fieldValue && cells[i + 2] ? [[fieldValue.key, cells[i + 2] ?? ''] as const] : [],
      );
      const retired = named.some(
        (word, i) => /^retired$/i.test(word) && /^(retired|yes|true|1)$/i.test(cells[i + 2] ?? ''),
      );
      return {
        code: cells[0] ?? '',
        name: cells[1] || (cells[0] ?? ''),
        metadata: Object.fromEntries(values),
        retired,
      };
    });
  const missing = before.filter((entry) => !read.some(({ code }) => code === entry.code));
  return { metadata: all, entries: [...read, ...missing.map((entry) => ({ ...entry, retired: true }))] };
};
