import { dayOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { MOST_DXF } from '../../platform/content/drawing.ts';
import { hasSmall, isShownByPages } from '../../platform/content/kind.ts';
import { isConnectionLost } from '../../platform/db/constraints.ts';
import { parseBehind } from '../../platform/parsing/index.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { openDocument, openFile } from '../documents/index.ts';
import { listFiles } from '../revisions/index.ts';
import { askFor } from './asking.ts';
import * as store from './store.ts';

/** Pixels of the longer side. */
const SIDE = 260;
const MOST_BYTES = 80 * 1024 * 1024;
const PDF = 'application/pdf';
const mostOf = (mediaType: string) => (mediaType === 'image/vnd.dxf' ? MOST_DXF : MOST_BYTES);
type Small = { sha256: string; size: number };

/** A thumbnail of a file's first page; undefined until it is made, which this requests. */
export const smallPicture = async (app: App, viewer: Viewer, fileId: string): Promise<Small | undefined> => {
  const { file } = await openFile(app, viewer, fileId);
  if (!hasSmall(file.media_type) || file.size > mostOf(file.media_type)) throw refused('cannot_be_shown');
  const byPages = isShownByPages(file.media_type);
  const pages = byPages ? await store.findRendition(app.db, { sha256: file.sha256, kind: 'pages' }) : undefined;
  if (byPages && !pages) {
    await askFor(app, file.sha256, 'pages');
    return undefined;
  }
  if (pages?.state === 'failed') throw refused('cannot_be_shown');
  const known = await store.findRendition(app.db, { sha256: file.sha256, kind: 'small' });
  if (known?.state === 'failed') throw refused('cannot_be_shown');
  if (known?.result_sha256) return { sha256: known.result_sha256, size: await app.content.sizeOf(known.result_sha256) };
  if (!known && (!byPages || pages?.state === 'done')) await askFor(app, file.sha256, 'small');
  return undefined;
};

/** The same of the newest version of a revision, for lists, which know revisions and not files. */
export const smallOfRevision = async (
  app: App,
  viewer: Viewer,
  ref: string,
  revisionId: string | undefined,
): Promise<Small | undefined> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  const revision = revisionId
    ? opened.revisions.find((one) => one.id === revisionId)
    : (opened.inForce ?? opened.work ?? opened.revisions.at(-1));
  if (!revision?.latest_version_id) throw refused('not_found');
  const [file] = await listFiles(app.db, [revision.latest_version_id]);
  if (!file) throw refused('not_found');
  return smallPicture(app, viewer, file.id);
};

/** The thumbnail of a content, of an office file from its pages; undefined where none can be drawn. */
export const drawSmall = async (
  app: App,
  one: { sha256: string; media_type: string; size: number },
): Promise<Uint8Array | undefined> => {
  const pages = await store.findRendition(app.db, { sha256: one.sha256, kind: 'pages' });
  const from = isShownByPages(one.media_type) ? pages?.result_sha256 : one.sha256;
  if (!from || one.size > mostOf(one.media_type)) return undefined;
  try {
    const path = await app.content.intactPath(from);
    return await parseBehind('picture', path, from === one.sha256 ? one.media_type : PDF, 1, SIDE);
  } catch (error) {
    if (isConnectionLost(error)) throw error;
    app.log.warn({ sha256: one.sha256, reason: String(error).slice(0, 200) }, 'no thumbnail could be created');
    return undefined;
  }
};
