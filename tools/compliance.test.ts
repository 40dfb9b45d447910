import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { describe, expect, it } from 'vitest';

const root = join(import.meta.dirname, '..');
const page = readFileSync(join(root, 'docs/compliance.md'), 'utf8');

/** The texts of the tests that a name in the page stands for: a file of the server's tests, or a folder of another package. */
const testsOf = (name: string): string | undefined => {
  const file = name.startsWith('tools/') ? `${name}.test.ts` : `packages/server/src/tests/${name}.test.ts`;
  if (existsSync(join(root, file))) return readFileSync(join(root, file), 'utf8');
  if (!name.startsWith('packages/') || !existsSync(join(root, name))) return undefined;
  return readdirSync(join(root, name))
    .filter((one) => one.endsWith('.test.ts'))
    .map((one) => readFileSync(join(root, name, one), 'utf8'))
    .join('\n');
};
const cited = [...page.matchAll(/`([a-zA-Z/.-]+)`: ("[^"]+"(?:, "[^"]+")*)/g)].flatMap(([, name = '', titles = '']) =>
  [...titles.matchAll(/"([^"]+)"/g)].map(([, title = '']) => [name, title] as const),
);

describe('the table of electronic records and signatures', () => {
  it('names many tests', () => {
    expect(cited.length).toBeGreaterThan(25);
  });

  it.each(cited)('names a test that there is: %s, %s', (name, title) => {
    expect(testsOf(name)).toContain(title);
  });
});
