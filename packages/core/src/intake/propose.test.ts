import { expect, test } from 'vitest';
import type { FieldDefinition } from '../metadata/metadata.ts';
import { readFileName } from '../naming/readName.ts';
import { type IntakeOrganisation, proposeFiling } from './propose.ts';

const field = (key: string, label: string, kind: FieldDefinition['kind'], more: Partial<FieldDefinition> = {}) => ({
  key,
  label,
  kind,
  mandatory: false,
  level: 'revision' as const,
  ...more,
});
const ORGANISATION: IntakeOrganisation = {
  types: [
    {
      id: 'rpt',
      code: 'RPT',
      name: 'Report',
      fields: [
        field('testedOn', 'Tested on', 'date'),
        field('result', 'Result', 'choice', {
          options: [
            { code: 'OK', text: 'as required' },
            { code: 'X', text: 'gone', retired: true },
          ],
        }),
        field('load', 'Load', 'number'),
        field('tester', 'Tested by', 'person'),
      ],
    },
    { id: 'tst', code: 'TST', name: 'Test report', fields: [] },
    { id: 'sup', code: 'SUP', name: 'Supplier document', fields: [] },
  ],
  folders: [
    { id: 'a', name: 'Purchasing', path: ['Company', 'Purchasing'] },
    { id: 'b', name: 'Cabins', path: ['Carriers', 'Cabins'] },
    { id: 'c', name: 'Cabins', path: ['Stations', 'Cabins'] },
    { id: 'd', name: 'Stations', path: ['Stations'] },
  ],
  typeOfNumber: (number) => /^THR-([A-Z]{3})-/.exec(number)?.[1],
};
const recognise = (text: string) =>
  /^THR-[A-Z]{3}-\d{4}$/.test(text)
    ? ({ kind: 'read', rule: 0, parts: { counter: 1 } } as never)
    : ({ kind: 'unknown' } as never);
const propose = (name: string, text = '', folders: string[] = []) =>
  proposeFiling({ folders, name: readFileName(name, recognise), text }, ORGANISATION);

test('a number in the name determines the type before the folder does', () => {
  const { typeId, number, title, origins } = propose('THR-RPT-0460 rope test.pdf', '', ['SUP']);
  expect({ typeId, number, title }).toEqual({ typeId: 'rpt', number: 'THR-RPT-0460', title: 'Rope test' });
  expect(origins).toMatchObject({ type: 'the file name', number: 'the file name', title: 'the file name' });
});

test('the folder determines type and folder; an ambiguous name is decided by the folders above it', () => {
  expect(propose('x1 letter.pdf', '', ['Purchasing', 'supplier document'])).toMatchObject({
    typeId: 'sup',
    folderId: 'a',
    origins: { type: 'the folder', folder: 'the folder' },
  });
  expect(propose('plan.pdf', '', ['Cabins']).folderId).toBeNull();
  expect(propose('plan.pdf', '', ['Stations', 'Cabins']).folderId).toBe('c');
});

test.each(['scan_0017.pdf', 'IMG-20261125.png', '2026-11-25 (3).pdf', 'Scan.pdf'])(
  'a name such as %s says nothing: the title is read from the text',
  (name) => {
    const { title, typeId, origins } = propose(name, 'Ref: 12\nTest report of the haul rope\nmore');
    expect({ title, typeId }).toEqual({ title: 'Test report of the haul rope', typeId: 'tst' });
    expect(origins).toMatchObject({ title: 'the text', type: 'the text' });
  },
);

test('a line that begins with the name of a type gives what follows it as title', () => {
  expect(propose('scan.pdf', 'Tested on: today, in the hall\nReport: visual check of the rope').title).toBe(
    'Visual check of the rope',
  );
});

test('metadata are read from lines that name them, in the form of their kind, and never guessed', () => {
  const text = 'Report\nTested on: 3.11.2026\n**Result**: As required\nLoad: 12,5 kN\nTested by: Otto';
  expect(propose('scan.pdf', text).metadata).toEqual({ testedOn: '2026-11-03', result: 'OK', load: 12.5 });
  expect(propose('scan.pdf', 'Report\nTested on: 11/3/26\nResult: gone\nLoad: heavy').metadata).toEqual({});
});
