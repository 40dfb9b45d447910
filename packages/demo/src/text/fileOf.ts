import { pictureOf } from '../figures/pictures.ts';
import { blocksOf } from './blocks.ts';
import { docxOf } from './docx.ts';
import { pdfOf } from './pdf.ts';
import { textOf } from './source.ts';

export type DemoFile = { name: string; bytes: Buffer };
/** The file of a document's revision, counted from 1. */
export type FileOf = (revision: number) => Promise<DemoFile>;

const FIGURE = /!\[([^\]]*)\]\(([^)\s]+)\)/g;

/** A Markdown text with its pictures inside, so that the one file holds everything. */
const withPictures = async (markdown: string): Promise<Buffer> => {
  const names = [...markdown.matchAll(FIGURE)].map(([, , name]) => name ?? '');
  const pictures = new Map<string, string>();
  for (const name of names) {
    const { bytes, type } = await pictureOf(name);
    pictures.set(name, `data:image/${type === 'jpg' ? 'jpeg' : 'png'};base64,${bytes.toString('base64')}`);
  }
  return Buffer.from(markdown.replace(FIGURE, (_, caption, name) => `![${caption}](${pictures.get(name)})`));
};

/** A Markdown text as a file of one kind. */
export const markdownAs = async (kind: 'md' | 'pdf' | 'docx', markdown: string): Promise<Buffer> => {
  if (kind === 'md') return withPictures(markdown);
  const blocks = blocksOf(markdown);
  return kind === 'pdf' ? pdfOf(blocks) : docxOf(blocks);
};

const asFile = async (name: string, markdown: string): Promise<DemoFile> => {
  const kind = name.split('.').at(-1);
  if (kind !== 'md' && kind !== 'pdf' && kind !== 'docx') throw new Error(`no text is made into ${name}`);
  return { name, bytes: await markdownAs(kind, markdown) };
};

/** A file made from a text of `texts/`, as Word file, PDF or Markdown by the ending of its name. */
export const fromText =
  (text: string, name: string): FileOf =>
  (revision) =>
    asFile(name, textOf(text, revision));

/** The same from a text that is put together rather than read. */
export const fromMarkdown =
  (make: (revision: number) => string, name: string): FileOf =>
  (revision) =>
    asFile(name, make(revision));
