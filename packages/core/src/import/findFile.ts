import { foldText } from '../text.ts';

/** A file that was sent for an import, by its path in the folder or zip that it came from. */
export type SentFile = { path: string; sha256: string; size: number };

/** The files that a manifest entry names: one, none, or several of that name. */
export type FoundFile<T> = { kind: 'one'; file: T } | { kind: 'none' } | { kind: 'several'; paths: string[] };

const partsOf = (path: string): string[] => path.replace(/\\/g, '/').split('/').filter(Boolean);
/** The name of a file without the folders that it stood in. */
export const baseName = (path: string): string => path.split(/[\\/]/).at(-1) ?? path;

const MOST_NAMED = 3;

/**
 * Finds files by how a manifest names them: by name alone, by a path within what was sent, or by the path that they had where they
 * came from. The longest end of the path that some file has decides; files of equal content are one.
 */
export const createFileFinder = <T extends SentFile>(files: readonly T[]): ((name: string) => FoundFile<T>) => {
  const byEnd = new Map<string, T[]>();
  for (const file of files) {
    const parts = partsOf(foldText(file.path));
    for (let from = 0; from < parts.length; from++) {
      const end = parts.slice(from).join('/');
      const known = byEnd.get(end);
      if (!known) byEnd.set(end, [file]);
      else if (!known.some((one) => one.sha256 === file.sha256)) known.push(file);
    }
  }
  return (name) => {
    const parts = partsOf(foldText(name));
    for (let from = 0; from < parts.length; from++) {
      const [first, ...others] = byEnd.get(parts.slice(from).join('/')) ?? [];
      if (first && others.length === 0) return { kind: 'one', file: first };
      if (first) return { kind: 'several', paths: [first, ...others].slice(0, MOST_NAMED).map((file) => file.path) };
    }
    return { kind: 'none' };
  };
};
