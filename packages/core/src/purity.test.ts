import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';

const sources = (dir: string): string[] =>
  readdirSync(dir, { withFileTypes: true }).flatMap((entry) => {
    const path = join(dir, entry.name);
    if (entry.isDirectory()) return sources(path);
    return path.endsWith('.ts') && !path.endsWith('.test.ts') ? [path] : [];
  });

const files = sources(import.meta.dirname);

test('the core knows nothing but the language: no package, no clock, no chance', () => {
  expect(files.length).toBeGreaterThan(15);
  for (const file of files) {
    const text = readFileSync(file, 'utf8');
    const imports = [...text.matchAll(/from '([^']+)'/g)].map((match) => match[1] ?? '');
    expect(
      imports.filter((name) => !name.startsWith('.')),
      file,
    ).toEqual([]);
    expect(text, file).not.toMatch(/Date\.now|new Date\(\)|Math\.random|process\.|fetch\(/);
  }
});
