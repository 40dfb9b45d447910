import { expect, test } from 'vitest';
import { entriesFrom, entriesOfTable, entriesToLines, metadataFrom } from './entryLines.ts';

const METADATA = metadataFrom('Client, Project lead', [{ key: 'customer', label: 'Client', kind: 'text' }]);
const entry = (code: string, name: string, metadata: Record<string, string> = {}, retired = false) => ({
  code,
  name,
  metadata,
  retired,
});

test('metadata keep their keys while their labels stay', () => {
  expect(METADATA.map(({ key }) => key)).toEqual(['customer', 'projectLead']);
});

test('lines with tabs or semicolons are entries, and entries are such lines again', () => {
  const entries = [entry('P-1', 'Lake line', { customer: 'Oberlauf' }), entry('P-2', 'Old line', {}, true)];
  expect(entriesFrom('P-1; Lake line; Oberlauf\nP-2;Old line;;;retired', METADATA)).toEqual(entries);
  expect(entriesFrom(entriesToLines(entries, METADATA), METADATA)).toEqual(entries);
});

test('a file brings its metadata by their headings in any order, new ones too, and retires what it does not have', () => {
  const read = entriesOfTable(
    [
      ['Code', 'Name', 'site', 'CLIENT', 'Retired'],
      ['P-1', 'Lake line', 'Lake', 'Oberlauf', ''],
      ['P-3', '', '', '', 'yes'],
      ['', 'no code', '', '', ''],
    ],
    METADATA,
    [entry('P-1', 'Old name'), entry('P-2', 'Ridge', { customer: 'Fjell' })],
  );
  expect(read.metadata.map(({ key }) => key)).toEqual(['customer', 'projectLead', 'site']);
  expect(read.entries).toEqual([
    entry('P-1', 'Lake line', { site: 'Lake', customer: 'Oberlauf' }),
    entry('P-3', 'P-3', {}, true),
    entry('P-2', 'Ridge', { customer: 'Fjell' }, true),
  ]);
});
