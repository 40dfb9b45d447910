import type { AnswerOf, api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { isShownByPages } from '../../platform/content/kind.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { handOut, openFile, shownCopy } from '../documents/index.ts';
import { askFor } from './asking.ts';
import * as store from './store.ts';

const PDF = 'application/pdf';

/** The progress of a file's pages; the first request starts the job that makes them. */
export const pagesOf = async (
  app: App,
  viewer: Viewer,
  fileId: string,
): Promise<AnswerOf<typeof api.viewing.pages>> => {
  const { file } = await openFile(app, viewer, fileId);
  if (!isShownByPages(file.media_type)) throw refused('cannot_be_shown');
  const known = await store.findRendition(app.db, { sha256: file.sha256, kind: 'pages' });
  if (!known) await askFor(app, file.sha256, 'pages');
  return { state: known?.state ?? 'waiting', why: known?.why ?? null };
};

/** The content that holds the pages made of another one, once they are. */
export const madePages = async (app: App, sha256: string): Promise<string | undefined> => {
  const made = await store.findRendition(app.db, { sha256, kind: 'pages' });
  return made?.result_sha256 && (await app.content.has(made.result_sha256)) ? made.result_sha256 : undefined;
};

/** The pages themselves, recorded as opened; while they are not made there is nothing. Who may not take them away gets a marked copy. */
export const pagesFile = async (app: App, viewer: Viewer, fileId: string) => {
  const { file, name, mayTake } = await handOut(app, viewer, fileId, 'open');
  const sha256 = await madePages(app, file.sha256);
  if (!sha256) throw refused('not_found');
  const size = await app.content.sizeOf(sha256);
  const shown = mayTake ? 'as it is' : await shownCopy(app, { sha256, size, media_type: PDF }, viewer.name);
  if (!shown) throw refused('right_missing', { right: 'download' });
  return {
    sha256,
    size,
    mediaType: PDF,
    name: `${name.replace(/\.[^.]+$/, '')}.pdf`,
    as: 'open' as const,
    marked: shown === 'as it is' ? undefined : shown.bytes,
  };
};
