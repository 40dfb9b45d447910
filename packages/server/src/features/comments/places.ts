import { findPlace, type Mark, pageOfPlace } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { findText } from '../content/index.ts';
import { type Content, createLooks } from './looks.ts';
import type { CommentRow } from './store.ts';
import * as store from './store.ts';

/** Where a comment is in the version in view. */
export type Place = { state: 'here' | 'lost'; page: number | null };

/**
 * Where each comment is in a version: in its own file it keeps its place; in another one its words are searched
 * for, and a mark without words keeps its place if the page looks the same there, or, where it cannot be drawn, has the text it
 * had. One that cannot be found is reported as lost.
 */
export const placesIn = async (
  app: App,
  documentId: string,
  versionId: string | undefined,
  comments: readonly CommentRow[],
): Promise<Map<string, Place>> => {
  const placed = comments.filter((comment) => comment.quote !== null || comment.mark !== null);
  const places = new Map<string, Place>();
  if (placed.length === 0 || !versionId) return places;
  const now = new Map(
    (await store.findVersionFiles(app.db, { documentId, versionId })).map((file) => [file.sort, file]),
  );
  const made = new Map(
    (await store.listCommentedFiles(app.db, documentId)).map((file) => [
      `${file.revision_id} ${file.version} ${file.sort}`,
      file,
    ]),
  );
  const texts = new Map<string, string>();
  const textOf = async (sha256: string | undefined) => {
    if (!sha256) return '';
    const known = texts.get(sha256) ?? (await findText(app, sha256)) ?? '';
    texts.set(sha256, known);
    return known;
  };
  const looks = createLooks(app);
  const isSame = async (mark: Mark, before: Content, file: Content): Promise<boolean> =>
    (await looks(mark, before, file)) ?? samePage(textOf, before.sha256, file.sha256, mark.page);
  for (const comment of placed) {
    const file = now.get(comment.file_sort);
    const before = made.get(`${comment.revision_id} ${comment.version} ${comment.file_sort}`);
    const text = await textOf(file?.sha256);
    const found =
      comment.quote && text
        ? findPlace(text, { quote: comment.quote, before: '', after: '', ...comment.around })
        : undefined;
    const page = found ? pageOfPlace(text, found.start) : null;
    if (file !== undefined && file.sha256 === before?.sha256)
      places.set(comment.id, { state: 'here', page: comment.mark?.page ?? page });
    else if (found) places.set(comment.id, { state: 'here', page });
    else if (comment.mark && !comment.quote && before && file && (await isSame(comment.mark, before, file)))
      places.set(comment.id, { state: 'here', page: comment.mark.page });
    else places.set(comment.id, { state: 'lost', page: null });
  }
  return places;
};

/** Whether a page has the same text in another file, and any text at all. */
const samePage = async (
  textOf: (sha256: string | undefined) => Promise<string>,
  before: string | undefined,
  now: string | undefined,
  page: number,
): Promise<boolean> => {
  const [a, b] = [
    (await textOf(before)).split('\f')[page - 1]?.trim(),
    (await textOf(now)).split('\f')[page - 1]?.trim(),
  ];
  return a !== undefined && a !== '' && a === b;
};
