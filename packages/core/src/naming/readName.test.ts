import fc from 'fast-check';
import { expect, test } from 'vitest';
import type { KnownRule } from '../numbering/recognise.ts';
import { createRecogniser } from '../numbering/recogniser.ts';
import { parseRule } from '../numbering/rule.ts';
import { makeFileName } from './fileName.ts';
import { readFileName } from './readName.ts';

const rule = (text: string): KnownRule => {
  const parsed = parseRule(text);
  if (!parsed.ok) throw new Error(text);
  return {
    id: text,
    rule: parsed.value,
    codes: { types: ['PRO', 'DWG', 'FRM'], areas: ['1', '2'], departments: [], fields: {} },
  };
};
const recognise = createRecogniser([rule('THR-{type}-{counter:4}'), rule('THR-MIN-{year}-{counter:3:per=year}')]);
const read = (name: string) => readFileName(name, recognise);

test.each([
  ['THR-PRO-0118_C_Grip-overhaul-slip-force-test.docx', 'THR-PRO-0118', 'C', 'Grip overhaul slip force test', 'docx'],
  ['THR-PRO-0118.pdf', 'THR-PRO-0118', null, '', 'pdf'],
  ['Grip overhaul THR-PRO-0118 rev B.docx', 'THR-PRO-0118', 'B', 'Grip overhaul', 'docx'],
  ['THR-PRO-0118 revision 2 grip.docx', 'THR-PRO-0118', '2', 'Grip', 'docx'],
  ['THR-PRO-0118 2026 report.pdf', 'THR-PRO-0118', null, '2026 report', 'pdf'],
  ['THR-PRO-0118_revP01.dwg', 'THR-PRO-0118', 'P01', '', 'dwg'],
  ['THR-MIN-2026-007 (1.2) safety.md', 'THR-MIN-2026-007', '1.2', 'Safety', 'md'],
  ['brake_check 2026.md', null, null, 'Brake check 2026', 'md'],
  ['XTHR-PRO-0118.pdf', null, null, 'XTHR PRO-0118', 'pdf'],
  ['THR-PRO-01185.pdf', null, null, 'THR PRO-01185', 'pdf'],
  ['noextension', null, null, 'Noextension', ''],
])('%s', (name, number, label, title, extension) => {
  expect(read(name)).toEqual({ number, label, title, extension });
});

test('a name that the rules made gives its number and label back', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 99_999 }),
      fc.constantFrom('A', 'C', 'Y', 'AA', 'P01', '3', '1.0'),
      fc.stringMatching(/^[a-z]{3,12}( [a-z]{3,12}){0,4}$/),
      (counter, revision, title) => {
        const number = `THR-PRO-${String(counter).padStart(4, '0')}`;
        const name = makeFileName({ number, revision, title, extension: 'docx' });
        const back = read(name);
        expect([back.number, back.label, back.title.toLowerCase()]).toEqual([number, revision, title]);
      },
    ),
  );
});
