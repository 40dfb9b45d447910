import fc from 'fast-check';
import { expect, test } from 'vitest';
import { extensionOf, makeFileName } from './fileName.ts';

const values = { number: 'THR-PRO-0118', revision: 'C', extension: 'docx' };
const name = (title: string, rule?: string) => makeFileName({ ...values, title }, rule);

test.each([
  ['Grip overhaul / slip-force test: 2nd issue?', 'THR-PRO-0118_C_Grip-overhaul-slip-force-test-2nd-issue.docx'],
  ['Prüfung der Klemme', 'THR-PRO-0118_C_Prüfung-der-Klemme.docx'],
  ['Pru\u0308fung\tder\nKlemme', 'THR-PRO-0118_C_Prüfung-der-Klemme.docx'],
  ['.. safe \u202egnp.exe', 'THR-PRO-0118_C_safe-gnp.exe.docx'],
  ['???', 'THR-PRO-0118_C.docx'],
])('the title %j gives %s', (title, wanted) => {
  expect(name(title)).toBe(wanted);
});

test.each([
  ['con', 'con_.docx'],
  ['con.x', 'con_.x.docx'],
  ['???', 'THR-PRO-0118.docx'],
])('by the rule {title}.{ext} the title %j gives %s', (title, wanted) => {
  expect(name(title, '{title}.{ext}')).toBe(wanted);
});

test('an empty part goes with its separator', () => {
  expect(makeFileName({ ...values, revision: '', title: 'Note' })).toBe('THR-PRO-0118_Note.docx');
  expect(makeFileName({ ...values, title: 'Note', date: '2026-11-25' }, '{date} {title} v{version}.{ext}')).toBe(
    '2026-11-25 Note.docx',
  );
});

test('a long title is shortened at a word end, within the word if it is the only one', () => {
  const long = name('overhaul '.repeat(40));
  expect([...long].length).toBeLessThanOrEqual(150);
  expect(long.endsWith('-overhaul.docx')).toBe(true);
  expect([...name('x'.repeat(400))].length).toBe(150);
  expect(new TextEncoder().encode(name('漢'.repeat(400))).length).toBeLessThanOrEqual(255);
});

test('a name is valid on every system and cleaning a clean name changes nothing', () => {
  fc.assert(
    fc.property(fc.string({ unit: 'binary', maxLength: 300 }), (title) => {
      const made = makeFileName({ ...values, title }, '{title}.{ext}');
      const stem = made.slice(0, -'.docx'.length);
      const again = makeFileName({ ...values, title: stem }, '{title}.{ext}');
      return (
        [...made].every((c) => c >= ' ' && !'<>:"/\\|?*'.includes(c)) &&
        !/^[\s.]|[\s.]$/u.test(stem) &&
        [...made].length <= 150 &&
        new TextEncoder().encode(made).length <= 255 &&
        again === made
      );
    }),
    { numRuns: 500 },
  );
});

test('the extension of a name is read without its dot', () => {
  expect(extensionOf('a.b.PDF')).toBe('pdf');
  expect(extensionOf('README')).toBe('');
});
