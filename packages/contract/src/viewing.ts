import { z } from 'zod';
import { Id } from './common.ts';
import { endpoint } from './endpoint.ts';

const FileParam = z.strictObject({ file: Id });
const PROBLEMS = ['not_found', 'right_missing', 'content_missing', 'cannot_be_shown'] as const;

/** What a file shows beside its own bytes: pages made of it, a small picture, its sheets, its entries, its parts. */
export const viewing = {
  pages: endpoint({
    id: 'filePages',
    feature: 'viewing',
    method: 'GET',
    path: '/api/files/:file/pages',
    summary: 'How far the PDF pages of an office file are; asked for the first time, they begin to be made',
    params: FileParam,
    answer: z.object({ state: z.enum(['waiting', 'done', 'failed']), why: z.string().nullable() }),
    problems: PROBLEMS,
  }),
  pagesFile: endpoint({
    id: 'filePagesPdf',
    feature: 'viewing',
    method: 'GET',
    path: '/api/files/:file/pages.pdf',
    summary: 'The PDF pages made of an office file',
    params: FileParam,
    stream: 'bytes',
    problems: PROBLEMS,
  }),
  small: endpoint({
    id: 'fileSmallPicture',
    feature: 'viewing',
    method: 'GET',
    path: '/api/files/:file/small.png',
    summary: 'A small picture of the first page; not found while it is being made',
    params: FileParam,
    query: z.strictObject({ try: z.string().max(10).optional() }),
    stream: 'bytes',
    problems: PROBLEMS,
  }),
  sheets: endpoint({
    id: 'fileSheets',
    feature: 'viewing',
    method: 'GET',
    path: '/api/files/:file/sheets',
    summary: 'The sheets of a workbook as text, as far as they are shown; formulas by the value stored with them',
    params: FileParam,
    answer: z.object({
      sheets: z.array(z.object({ name: z.string(), rows: z.array(z.array(z.string())), more: z.boolean() })),
    }),
    problems: [...PROBLEMS, 'table_unreadable'],
  }),
  entries: endpoint({
    id: 'fileEntries',
    feature: 'viewing',
    method: 'GET',
    path: '/api/files/:file/entries',
    summary: 'What is in a zip file: names and sizes, nothing unpacked',
    params: FileParam,
    answer: z.object({ entries: z.array(z.object({ name: z.string(), size: z.number() })), more: z.boolean() }),
    problems: PROBLEMS,
  }),
  mail: endpoint({
    id: 'fileMail',
    feature: 'viewing',
    method: 'GET',
    path: '/api/files/:file/mail',
    summary: 'A mail as it is read: who, when, about what, its clean text and its attachments',
    params: FileParam,
    answer: z.object({
      from: z.string(),
      to: z.string(),
      date: z.string().nullable(),
      subject: z.string(),
      html: z.string(),
      attachments: z.array(z.object({ n: z.number().int(), name: z.string(), size: z.number().int() })),
    }),
    problems: PROBLEMS,
  }),
  attachment: endpoint({
    id: 'fileMailAttachment',
    feature: 'viewing',
    method: 'GET',
    path: '/api/files/:file/attachments/:n',
    summary: 'One attachment of a mail',
    params: FileParam.extend({ n: z.coerce.number().int().min(0).max(500) }),
    stream: 'bytes',
    problems: PROBLEMS,
  }),
  drawing: endpoint({
    id: 'fileDrawing',
    feature: 'viewing',
    method: 'GET',
    path: '/api/files/:file/drawing.svg',
    summary: 'A DXF drawing as a picture',
    params: FileParam,
    stream: 'bytes',
    problems: PROBLEMS,
  }),
  scan: endpoint({
    id: 'fileScan',
    feature: 'viewing',
    method: 'GET',
    path: '/api/files/:file/scan',
    summary: 'Whether the text of a file was read from a picture, in which language and how surely (0 to 100)',
    params: FileParam,
    answer: z.object({
      scan: z.object({ language: z.string(), confidence: z.number(), pages: z.number().int() }).nullable(),
    }),
    problems: ['not_found', 'right_missing'],
  }),
};
