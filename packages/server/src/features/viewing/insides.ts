import { readFile } from 'node:fs/promises';
import type { AnswerOf, api } from '@kanonos/contract';
import { simpleParser } from 'mailparser';
import sanitizeHtml from 'sanitize-html';
import yauzl from 'yauzl';
import type { App } from '../../platform/app.ts';
import { drawDxf, MOST_DXF } from '../../platform/content/drawing.ts';
import { isSheetsByOffice, showOf } from '../../platform/content/kind.ts';
import { refused } from '../../platform/refused.ts';
import { readSheets } from '../../platform/tables/readTable.ts';
import type { Viewer } from '../access/service.ts';
import { handOut, openFile } from '../documents/files.ts';
import { askFor } from './asking.ts';
import { findRendition, findScan } from './store.ts';

const MOST = { rows: 1000, columns: 60, entries: 5000, bytes: 60 * 1024 * 1024 };

/** A file that may be looked into, recorded as opened; of another kind or too large it cannot be shown. */
const lookInto = async (app: App, viewer: Viewer, fileId: string, show: string) => {
  const { file } = await handOut(app, viewer, fileId, 'open');
  if (showOf(file.media_type) !== show || file.size > MOST.bytes) throw refused('cannot_be_shown');
  return { file, path: app.content.pathOf(file.sha256) };
};

/** The sheets of a workbook; those of another format come from the workbook that a job makes of it, once it is asked for. */
export const sheetsOf = async (
  app: App,
  viewer: Viewer,
  fileId: string,
): Promise<AnswerOf<typeof api.viewing.sheets>> => {
  const made = await madeSheets(app, viewer, fileId);
  if (made && made.state !== 'done') return { ...made, sheets: [] };
  const { path } = await lookInto(app, viewer, fileId, 'sheets');
  return { state: 'done', why: null, sheets: await readSheets(made ? app.content.pathOf(made.sha256) : path, MOST) };
};

type Made = { state: 'waiting' | 'failed'; why: string | null } | { state: 'done'; sha256: string };

/** How far the workbook is that is made of another format; nothing of one that is read itself. Waiting for it is no opening. */
const madeSheets = async (app: App, viewer: Viewer, fileId: string): Promise<Made | undefined> => {
  const { file } = await openFile(app, viewer, fileId);
  if (!isSheetsByOffice(file.media_type)) return undefined;
  const known = await findRendition(app.db, { sha256: file.sha256, kind: 'sheets' });
  if (!known) await askFor(app, file.sha256, 'sheets');
  if (known?.result_sha256) return { state: 'done', sha256: known.result_sha256 };
  return { state: known?.state === 'failed' ? 'failed' : 'waiting', why: known?.why ?? null };
};

/** What a zip says is in it; nothing is unpacked, and a name is only ever shown. */
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

/** Structure and words of a mail: nothing runs, and nothing is fetched, pictures from elsewhere least of all. */
const CLEAN: sanitizeHtml.IOptions = {
  allowedTags: sanitizeHtml.defaults.allowedTags.filter((tag) => tag !== 'img'),
  allowedAttributes: { a: ['href'], td: ['colspan', 'rowspan'], th: ['colspan', 'rowspan'] },
  allowedSchemes: ['http', 'https', 'mailto'],
};
const asHtml = (text: string) => text.replace(/[&<>]/g, (sign) => `&#${sign.charCodeAt(0)};`);

const parseMail = async (app: App, viewer: Viewer, fileId: string) => {
  const { path } = await lookInto(app, viewer, fileId, 'mail');
  return simpleParser(await readFile(path), { skipImageLinks: true }).catch(() => {
    throw refused('cannot_be_shown');
  });
};

export const mailOf = async (app: App, viewer: Viewer, fileId: string): Promise<AnswerOf<typeof api.viewing.mail>> => {
  const mail = await parseMail(app, viewer, fileId);
  const to = Array.isArray(mail.to) ? mail.to.map((one) => one.text).join(', ') : (mail.to?.text ?? '');
  return {
    from: mail.from?.text ?? '',
    to,
    date: mail.date?.toISOString() ?? null,
    subject: mail.subject ?? '',
    html: mail.html ? sanitizeHtml(mail.html, CLEAN) : `<p>${asHtml(mail.text ?? '').replace(/\n/g, '<br />')}</p>`,
    attachments: mail.attachments.map((one, n) => ({ n, name: one.filename ?? `attachment ${n + 1}`, size: one.size })),
  };
};

/** An attachment is only ever taken away: it was never judged, so nothing here opens it. */
export const attachmentOf = async (app: App, viewer: Viewer, fileId: string, n: number) => {
  const attachment = (await parseMail(app, viewer, fileId)).attachments[n];
  if (!attachment) throw refused('not_found');
  return { bytes: attachment.content, name: attachment.filename ?? `attachment ${n + 1}` };
};

/** A DXF drawing as SVG. */
export const drawingOf = async (app: App, viewer: Viewer, fileId: string): Promise<Buffer> => {
  const { file, path } = await lookInto(app, viewer, fileId, 'drawing');
  if (file.size > MOST_DXF) throw refused('cannot_be_shown');
  try {
    return Buffer.from(await drawDxf(path));
  } catch {
    throw refused('cannot_be_shown');
  }
};

/** How surely the text of a file was read from a picture, where it was. */
export const scanOf = async (app: App, viewer: Viewer, fileId: string): Promise<AnswerOf<typeof api.viewing.scan>> => {
  const { file } = await openFile(app, viewer, fileId);
  return { scan: (await findScan(app.db, file.sha256)) ?? null };
};
