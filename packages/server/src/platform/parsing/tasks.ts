import { readFile } from 'node:fs/promises';
import type { Written } from '../office/annotations.ts';
import type { PageMarks } from '../office/markPdf.ts';
import type { OfficeKind, Placed } from '../office/metadata.ts';

/**
 * Everything that reads uploaded files. Each runs in a process of its own with limits of time and memory; its libraries are loaded
 * only on use, so that a new process starts at once.
 */
export const TASKS = {
  words: async (path: string, mediaType: string) => (await import('../content/words.ts')).wordsOf(path, mediaType),
  wordsOfPdf: async (path: string) => (await import('../content/words.ts')).wordsOfPdf(path),
  readingText: async (path: string, show: 'html' | 'markdown') =>
    (await import('./readingText.ts')).readingTextOf(path, show),
  blocks: async (path: string, mediaType: string, pictures: boolean) =>
    (await import('./blocks.ts')).blocksOf(path, mediaType, pictures),
  markdown: async (text: string) => (await import('./readingText.ts')).cleanMarkdown(text),
  mail: async (path: string) => (await import('./mail.ts')).readMail(path),
  attachment: async (path: string, n: number) => (await import('./mail.ts')).readAttachment(path, n),
  table: async (path: string, name: string) => (await import('../tables/readTable.ts')).readTable(path, name),
  sheets: async (path: string, most: { rows: number; columns: number }) =>
    (await import('../tables/readTable.ts')).readSheets(path, most),
  drawing: async (path: string) => (await import('../content/drawing.ts')).drawDxf(path),
  picture: async (path: string, mediaType: string, page: number, side: number) =>
    (await import('../content/drawPage.ts')).drawPage(path, mediaType, page, side),
  raster: async (path: string, mediaType: string, page: number, side: number) =>
    (await import('../content/drawPage.ts')).rasterOfPage(path, mediaType, page, side),
  pagesOfScan: async (path: string) => (await import('../content/scans.ts')).pagesOfScan(path),
  references: async (path: string, extension: string) =>
    (await import('../content/drawing.ts')).referencesOf(path, extension),
  properties: async (path: string, kind: OfficeKind) =>
    (await import('../office/properties.ts')).readProperties(await readFile(path), kind),
  placedNames: async (path: string, kind: OfficeKind) =>
    (await import('../office/metadata.ts')).placedNames(await readFile(path), kind),
  fill: async (path: string, kind: OfficeKind, values: Placed) =>
    (await import('../office/metadata.ts')).fillMetadata(await readFile(path), kind, values),
  fillUnsealed: async (path: string, kind: OfficeKind, values: Placed) =>
    (await import('../office/copies.ts')).fillUnsealed(path, kind, values),
  sameButFields: async (before: string, after: string, kind: OfficeKind, values: Placed) =>
    (await import('../office/copies.ts')).sameButFields(before, after, kind, values),
  dress: async (path: string, template: string, kind: OfficeKind) =>
    (await import('../office/dress.ts')).dress(await readFile(path), await readFile(template), kind),
  markPdf: async (path: string, marks: PageMarks) =>
    (await import('../office/markPdf.ts')).markPdf(await readFile(path), marks),
  readAnnotations: async (path: string) =>
    (await import('../office/annotations.ts')).readAnnotations(await readFile(path)),
  writeAnnotations: async (path: string, written: Written[]) =>
    (await import('../office/annotations.ts')).writeAnnotations(await readFile(path), written),
  signaturesInPdf: async (path: string, trusted: string, now: Date) => {
    const { readCertificates, signaturesInPdf } = await import('../seal/signaturesInPdf.ts');
    return signaturesInPdf(await readFile(path), readCertificates(trusted), now);
  },
} as const;

export type TaskName = keyof typeof TASKS;
export type ArgumentsOf<N extends TaskName> = Parameters<(typeof TASKS)[N]>;
export type ResultOf<N extends TaskName> = Awaited<ReturnType<(typeof TASKS)[N]>>;
