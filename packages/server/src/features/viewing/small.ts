import { Readable } from 'node:stream';
import { dayOf } from '@kanonos/core';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { MOST_DXF } from '../../platform/content/drawing.ts';
import { drawPage } from '../../platform/content/drawPage.ts';
import { hasSmall, isShownByPages } from '../../platform/content/kind.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import { keepRendition } from '../documents/contents.ts';
import { openFile } from '../documents/files.ts';
import { filesOf, openDocument } from '../documents/service.ts';
import { askFor } from './asking.ts';
import * as store from './store.ts';

const BATCH = 8;
/** Pixels of the longer side. */
const SIDE = 260;
const MOST_BYTES = 80 * 1024 * 1024;
const PDF = 'application/pdf';
const mostOf = (mediaType: string) => (mediaType === 'image/vnd.dxf' ? MOST_DXF : MOST_BYTES);
type Small = { sha256: string; size: number };

/** A small picture of a file's first page; nothing while it is not made, and then it is asked for. */
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
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.house()).zone));
  const revision = revisionId
    ? opened.revisions.find((one) => one.id === revisionId)
    : (opened.inForce ?? opened.work ?? opened.revisions.at(-1));
  if (!revision?.latest_version_id) throw refused('not_found');
  const [file] = await filesOf(app.db, [revision.latest_version_id]);
  if (!file) throw refused('not_found');
  return smallPicture(app, viewer, file.id);
};

/** Makes some that wait; of an office file from its pages. Answers how many there were. */
export const makeSmall = (app: App): Promise<number> =>
  app.act(SYSTEM_CLOCK, async (work) => {
    const waiting = await store.takeWaiting(work.trx, { kind: 'small', limit: BATCH });
    for (const one of waiting) {
      const pages = await store.findRendition(work.trx, { sha256: one.sha256, kind: 'pages' });
      const from = isShownByPages(one.media_type) ? pages?.result_sha256 : one.sha256;
      let result: string | null = null;
      try {
        if (from && one.size <= mostOf(one.media_type)) {
          const bytes = await drawPage(app.content.pathOf(from), from === one.sha256 ? one.media_type : PDF, 1, SIDE);
          const { sha256, size } = await app.content.put(Readable.from([bytes]), MOST_BYTES);
          await keepRendition(work, { sha256, size, mediaType: 'image/png' });
          result = sha256;
        }
      } catch (error) {
        app.log.warn({ sha256: one.sha256, reason: String(error).slice(0, 200) }, 'no small picture could be made');
      }
      await store.endRendition(work.trx, {
        sha256: one.sha256,
        kind: 'small',
        state: result ? 'done' : 'failed',
        result,
        why: null,
        now: work.now,
      });
    }
    return waiting.length;
  });
