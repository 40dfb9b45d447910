import { expect, test } from 'vitest';
import { repeatedBlocks } from './lib/repeatedBlocks.ts';

const block = ['const a = 1;', 'const b = 2;', 'const c = a + b;', 'say(c);'].join('\n');

test('a block in two files is found once, with its length and both places', () => {
  const found = repeatedBlocks(
    new Map([
      ['one.ts', `import x from 'x';\n\n${block}\nend();`],
      ['two.ts', `begin();\n${block}\n}`],
    ]),
    3,
  );
  expect(found).toEqual([{ a: 'one.ts:3', b: 'two.ts:2', lines: 4 }]);
});

test('blank lines, comments and closing brackets neither make nor break a block', () => {
  const spaced = block.split('\n').join('\n\n// why\n');
  expect(
    repeatedBlocks(
      new Map([
        ['one.ts', block],
        ['two.ts', spaced],
      ]),
      4,
    ),
  ).toHaveLength(1);
  expect(
    repeatedBlocks(
      new Map([
        ['one.ts', '}\n}\n}\n}'],
        ['two.ts', '}\n}\n}\n}'],
      ]),
      3,
    ),
  ).toEqual([]);
});

test('fewer equal lines than asked for are no block', () => {
  expect(
    repeatedBlocks(
      new Map([
        ['one.ts', block],
        ['two.ts', 'const a = 1;\nconst b = 2;\nother();'],
      ]),
      3,
    ),
  ).toEqual([]);
});
