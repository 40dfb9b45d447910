import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { TEXTS } from '../places.ts';

/** `@2 ` from revision 2 on, `@-1 ` up to revision 1, `@2-3 ` in revisions 2 and 3. */
const MARK = /^@(\d*)(-?)(\d*) ?/;

const holds = (mark: RegExpMatchArray, revision: number): boolean => {
  const [, from, dash, to] = mark;
  const last = to ? Number(to) : Number.POSITIVE_INFINITY;
  return revision >= Number(from || 1) && revision <= (dash ? last : Number.POSITIVE_INFINITY);
};

/**
 * The Markdown of one revision (from 1) of a text in `texts/`. One source holds all revisions, so that what changed between them can
 * be read where it changed: a line with a mark at its beginning belongs only to the revisions that the mark names.
 */
export const textOf = (name: string, revision: number): string =>
  readFileSync(join(TEXTS, `${name}.md`), 'utf8')
    .split('\n')
    .flatMap((line) => {
      const mark = line.match(MARK);
      if (!mark || mark[0] === '@') return [line];
      return holds(mark, revision) ? [line.slice(mark[0].length)] : [];
    })
    .join('\n');
