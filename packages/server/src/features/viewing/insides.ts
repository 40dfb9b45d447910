import type { AnswerOf, api } from '@kanonos/contract';
import yauzl from 'yauzl';
import type { App } from '../../platform/app.ts';
import { MOST_DXF } from '../../platform/content/drawing.ts';
import { isSheetsByOffice, showOf } from '../../platform/content/kind.ts';
import { parse } from '../../platform/parsing/index.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { handOut, openFile } from '../documents/index.ts';
import { askFor } from './asking.ts';
import { findRendition, findScan } from './store.ts';

const MOST = { rows: 1000, columns: 60, entries: 5000, bytes: 60 * 1024 * 1024 };

/** A file that may be looked into, recorded as opened; of another kind or too large it cannot be shown. */
const lookInto = async (app: App, viewer: Viewer, fileId: string, show: string, as: 'open' | 'exact' = 'open') => {
  const { file } = await handOut(app, viewer, fileId, as);
  if (showOf(file.media_type) !== show || file.size > MOST.bytes) throw refused('cannot_be_shown');
  return { file, path: await app.content.intactPath(file.sha256) };
};

/** The sheets of a workbook; those of another format come from the workbook that a job makes of it on request. */
export const sheetsOf = async (
  app: App,
  viewer: Viewer,
  fileId: string,
): Promise<AnswerOf<typeof api.viewing.sheets>> => {
  const made = await madeSheets(app, viewer, fileId);
  if (made && made.state !== 'done') return { ...made, sheets: [] };
  const { path } = await lookInto(app, viewer, fileId, 'sheets');
  return {
    state: 'done',
    why: null,
    sheets: await parse('sheets', made ? await app.content.intactPath(made.sha256) : path, {
      rows: MOST.rows,
      columns: MOST.columns,
    }),
  };
};

type Made = { state: 'waiting' | 'failed'; why: string | null } | { state: 'done'; sha256: string };

/** The progress of a workbook made from another format; undefined for one read directly. Waiting for it does not count as opening. */
const madeSheets = async (app: App, viewer: Viewer, fileId: string): Promise<Made | undefined> => {
  const { file } = await openFile(app, viewer, fileId);
  if (!isSheetsByOffice(file.media_type)) return undefined;
  const known = await findRendition(app.db, { sha256: file.sha256, kind: 'sheets' });
  if (!known) await askFor(app, file.sha256, 'sheets');
  if (known?.result_sha256) return { state: 'done', sha256: known.result_sha256 };
  return { state: known?.state === 'failed' ? 'failed' : 'waiting', why: known?.why ?? null };
};

/** The directory of a zip; nothing is unpacked, and names are only shown. */
export const entriesOf = async (
  app: App,
  viewer: Viewer,
  fileId: string,
): Promise<AnswerOf<typeof api.viewing.entries>> => {
  const { path } = await lookInto(app, viewer, fileId, 'entries');
  return new Promise((resolve, reject) => {
    yauzl.open(path, { lazyEntries: true, decodeStrings: false, validateEntrySizes: false }, (error, zip) => {
      if (error || !zip) return reject(refused('cannot_be_shown'));
      const entries: { name: string; size: number }[] = [];
      const end = (more: boolean) => {
        zip.close();
        resolve({ entries, more });
      };
      zip.on('error', () => reject(refused('cannot_be_shown')));
      zip.on('end', () => end(false));
      zip.on('entry', (entry: yauzl.Entry) => {
        entries.push({ name: String(entry.fileName).slice(0, 500), size: entry.uncompressedSize });
        if (entries.length >= MOST.entries) end(true);
        else zip.readEntry();
      });
      zip.readEntry();
    });
  });
};

const ofMail = async <T>(work: Promise<T>): Promise<T> =>
  work.catch((error) => {
    throw error instanceof RefusalError ? error : refused('cannot_be_shown');
  });

export const mailOf = async (app: App, viewer: Viewer, fileId: string): Promise<AnswerOf<typeof api.viewing.mail>> => {
  const { path } = await lookInto(app, viewer, fileId, 'mail');
  return ofMail(parse('mail', path));
};

/** An attachment is only downloaded, by people who may download its mail: it was never checked, so nothing here opens it. */
export const attachmentOf = async (app: App, viewer: Viewer, fileId: string, n: number) => {
  const { path } = await lookInto(app, viewer, fileId, 'mail', 'exact');
  const attachment = await ofMail(parse('attachment', path, n));
  if (!attachment) throw refused('not_found');
  return attachment;
};

/** A DXF drawing as SVG. */
export const drawingOf = async (app: App, viewer: Viewer, fileId: string): Promise<Buffer> => {
  const { file, path } = await lookInto(app, viewer, fileId, 'drawing');
  if (file.size > MOST_DXF) throw refused('cannot_be_shown');
  try {
    return Buffer.from(await parse('drawing', path));
  } catch (error) {
    throw error instanceof RefusalError ? error : refused('cannot_be_shown');
  }
};

/** How surely the text of a file was read from a picture, where it was. */
export const scanOf = async (app: App, viewer: Viewer, fileId: string): Promise<AnswerOf<typeof api.viewing.scan>> => {
  const { file } = await openFile(app, viewer, fileId);
  const scan = await findScan(app.db, file.sha256);
  return { scan: scan && scan.pages > 0 ? scan : null };
};
