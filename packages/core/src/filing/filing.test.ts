import fc from 'fast-check';
import { expect, test } from 'vitest';
import { field } from '../testing/field.ts';
import {
  checkFilingRule,
  decideFolder,
  decideFolderState,
  filingPath,
  findPath,
  inheritedChanges,
  metadataInFolder,
  type PlanFolder,
} from './filing.ts';

const folder = (
  id: string,
  parentId: string | null,
  name: string,
  metadata: Record<string, string> = {},
): PlanFolder => ({
  id,
  parentId,
  name,
  metadata,
});
const plan = [
  folder('p', null, 'Projects', { lead: 'Lin' }),
  folder('o', 'p', 'Oberlauf', { client: 'Oberlauf' }),
  folder('l', 'o', 'Lake line', { lead: 'Joren' }),
  folder('s', null, 'Structures'),
];
const codes = (refusals: { code: string }[]) => refusals.map((r) => r.code);

test('the nearest folder with a value counts', () => {
  expect(metadataInFolder('l', plan)).toEqual({ lead: 'Joren', client: 'Oberlauf' });
  expect(metadataInFolder('o', plan)).toEqual({ lead: 'Lin', client: 'Oberlauf' });
  expect(metadataInFolder('s', plan)).toEqual({});
});

test('a folder has a usable name, unique among its siblings, and is never in itself', () => {
  expect(codes(decideFolder({ id: 'n', parentId: 'p', name: 'New' }, plan))).toEqual([]);
  expect(codes(decideFolder({ id: 'n', parentId: 'p', name: ' oberlauf ' }, plan))).toEqual(['folder_name_taken']);
  expect(codes(decideFolder({ id: 'n', parentId: null, name: 'a/b' }, plan))).toEqual(['folder_name_invalid']);
  expect(codes(decideFolder({ id: 'n', parentId: null, name: '..' }, plan))).toEqual(['folder_name_invalid']);
  expect(codes(decideFolder({ id: 'p', parentId: 'l', name: 'Projects' }, plan))).toEqual(['folder_in_itself']);
  expect(codes(decideFolder({ id: 'o', parentId: 'p', name: 'Oberlauf' }, plan))).toEqual([]);
});

test('a folder is shut only when nothing is under way in it, and reopened from both ends', () => {
  expect(codes(decideFolderState('in preparation', 'open', 0))).toEqual([]);
  expect(codes(decideFolderState('in preparation', 'closed', 0))).toEqual(['folder_state_move']);
  expect(codes(decideFolderState('open', 'closed', 2))).toEqual(['folder_has_work']);
  expect(codes(decideFolderState('open', 'closed', 0))).toEqual([]);
  expect(codes(decideFolderState('kept', 'open', 0))).toEqual([]);
  expect(codes(decideFolderState('open', 'kept', 0))).toEqual(['folder_state_move']);
});

test('what was inherited follows the folder, what was given by hand stays', () => {
  const fields = [
    field('client', { default: { from: 'folder' } }),
    field('lead', { default: { from: 'folder' } }),
    field('place'),
  ];
  const change = (metadata: Record<string, string>) =>
    inheritedChanges(fields, metadata, { client: 'A', lead: 'Lin' }, { client: 'B' });
  expect(change({ client: 'A', lead: 'Otto', place: 'X' })).toEqual({ client: 'B' });
  expect(change({})).toEqual({ client: 'B', lead: null });
  expect(change({ client: 'by hand', lead: 'Lin' })).toEqual({ lead: null });
});

test('a filing rule names known metadata, a fixed area, and no fieldValue that comes from the folder itself', () => {
  const fields = [field('client'), field('lead', { default: { from: 'folder' } })];
  expect(codes(checkFilingRule('Projects / {field:client} / {year}', fields))).toEqual([]);
  expect(codes(checkFilingRule('{family} / x', fields))).toEqual(['filing_area_fixed']);
  expect(codes(checkFilingRule('Projects / {field:lead}', fields))).toEqual(['filing_in_circle']);
  expect(codes(checkFilingRule('Projects / {field:gone}', fields))).toEqual(['filing_token_unknown']);
  expect(codes(checkFilingRule('Projects // x', fields))).toEqual(['filing_part_empty']);
  expect(codes(checkFilingRule('Projects / {year', fields))).toEqual(['filing_brace_unmatched']);
});

test('a path comes from type and metadata, choices by their text, and names the missing field', () => {
  const fields = [field('client', { kind: 'choice', options: [{ code: 'OB', text: 'Oberlauf/Bahnen' }] })];
  const type = { code: 'DWG', name: 'Drawing', family: 'Engineering', group: 'Drawings' };
  const at = (metadata: Record<string, string>) =>
    filingPath('Projects / {field:client} / {group} {year}', { type, year: '2026', fields, metadata });
  expect(at({ client: 'OB' })).toEqual({ ok: true, value: ['Projects', 'Oberlauf Bahnen', 'Drawings 2026'] });
  expect(at({})).toEqual({ ok: false, refusals: [{ code: 'filing_needs_field_value', params: { field: 'client' } }] });
});

test('what is there of a path is used again, whatever its case', () => {
  expect(findPath(['projects', 'OBERLAUF', 'New line'], plan)).toMatchObject({
    found: { id: 'o' },
    rest: ['New line'],
  });
  expect(findPath(['Nowhere'], plan)).toEqual({ found: undefined, rest: ['Nowhere'] });
});

test('the parts of a path are always valid folder names', () => {
  fc.assert(
    fc.property(fc.string({ minLength: 1, maxLength: 200 }), (client) => {
      const path = filingPath('Projects / {field:client}', {
        type: { code: '', name: '', family: '', group: '' },
        year: '2026',
        fields: [field('client')],
        metadata: { client },
      });
      if (!path.ok) return;
      expect(decideFolder({ id: 'x', parentId: null, name: path.value[1] ?? '' }, [])).toEqual([]);
    }),
  );
});
