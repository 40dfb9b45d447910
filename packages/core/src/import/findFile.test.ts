import fc from 'fast-check';
import { expect, test } from 'vitest';
import { createFileFinder } from './findFile.ts';

const file = (path: string, sha256 = path) => ({ path, sha256, size: 1 });
const find = createFileFinder([
  file('Old/Ropes/report.pdf'),
  file('Old/Cabins/report.pdf'),
  file('Old/Cabins/Door check.PDF'),
  file('Old/A/same.pdf', 'x'),
  file('Old/B/same.pdf', 'x'),
]);
const found = (name: string) => {
  const one = find(name);
  return one.kind === 'one' ? one.file.path : one.kind;
};

test.each([
  ['door check.pdf', 'Old/Cabins/Door check.PDF'],
  ['Cabins/report.pdf', 'Old/Cabins/report.pdf'],
  ['Old\\Ropes\\report.pdf', 'Old/Ropes/report.pdf'],
  ['Q:\\archive\\2019\\Old\\Ropes\\report.pdf', 'Old/Ropes/report.pdf'],
  ['report.pdf', 'several'],
  ['Elsewhere/report.pdf', 'several'],
  ['same.pdf', 'Old/A/same.pdf'],
  ['port.pdf', 'none'],
  ['', 'none'],
])('"%s" is %s', (name, path) => {
  expect(found(name)).toBe(path);
});

test('possible files are named', () => {
  expect(find('report.pdf')).toEqual({ kind: 'several', paths: ['Old/Ropes/report.pdf', 'Old/Cabins/report.pdf'] });
});

test('every file is found by its whole path, whatever the others are called', () => {
  const part = fc.constantFrom('a', 'b', 'c', 'd.pdf');
  const path = fc.array(part, { minLength: 1, maxLength: 4 }).map((parts) => parts.join('/'));
  fc.assert(
    fc.property(fc.uniqueArray(path, { minLength: 1, maxLength: 12 }), (paths) => {
      const among = createFileFinder(paths.map((one) => file(one)));
      for (const one of paths) {
        const hit = among(`top/${one}`);
        const longer = paths.some((other) => other !== one && other.endsWith(`/${one}`));
        if (!longer) expect(hit).toMatchObject({ kind: 'one', file: { path: one } });
        else expect(hit.kind).not.toBe('none');
      }
    }),
  );
});
