import type { DemoDocument } from './documents.ts';
import type { DemoFile } from './text/fileOf.ts';

/**
 * Makes the files of all revisions in the order in which they will be asked for, a few at a time, while the rest of the demo waits for
 * the database.
 *
 * @returns the file of a document's revision, counted from 1
 */
export const madeAhead = (
  documents: readonly DemoDocument[],
): ((document: DemoDocument, revision: number) => Promise<DemoFile>) => {
  const wanted = documents
    .flatMap((document) => document.revisions.map(({ daysAgo }, i) => ({ document, revision: i + 1, daysAgo })))
    .sort((a, b) => b.daysAgo - a.daysAgo);
  const made = new Map<string, Promise<DemoFile>>();
  const keyOf = (document: DemoDocument, revision: number) => `${document.title} ${revision}`;
  const make = (document: DemoDocument, revision: number): Promise<DemoFile> => {
    const key = keyOf(document, revision);
    const file = made.get(key) ?? document.file(revision);
    made.set(key, file);
    return file;
  };
  const makeNext = async (): Promise<void> => {
    // A file that cannot be made is reported where it is asked for.
    for (let next = wanted.shift(); next; next = wanted.shift())
      await make(next.document, next.revision).catch(() => {});
  };
  for (let i = 0; i < 3; i++) void makeNext();
  return make;
};
