import { readdirSync } from 'node:fs';
import { join } from 'node:path';

const LEFT_OUT = new Set(['node_modules', 'dist', 'test-results']);

/** TypeScript files below a folder, or the file itself, with paths from the folder where the program runs, in the order of their names. */
export const sourceFiles = (path: string): string[] =>
  /\.tsx?$/.test(path)
    ? [path]
    : readdirSync(path, { withFileTypes: true })
        .sort((a, b) => (a.name < b.name ? -1 : 1))
        .flatMap((entry) => {
          const inner = join(path, entry.name);
          if (entry.isDirectory()) return LEFT_OUT.has(entry.name) ? [] : sourceFiles(inner);
          return /\.tsx?$/.test(entry.name) ? [inner] : [];
        });
