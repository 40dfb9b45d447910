import type { AnswerOf, api, TypeInfo, Upload } from '@kanonos/contract';
import { metadataFromNamed } from '@kanonos/core';
import { type MetadataValues, toValues } from '../document/metadataValues.ts';
import { wording } from './wording.ts';

export type Match = AnswerOf<typeof api.documents.match>['files'][number];

/** One of many files on its way to a document. */
export type Row = {
  id: string;
  file: File;
  share: number;
  upload: Upload | null;
  match: Match | null;
  title: string;
  number: string;
  label: string;
  metadata: MetadataValues;
  /** What becomes of a file that is known already; the others are new documents. */
  as: 'new' | 'version' | 'leave out';
  state: 'sending' | 'ready' | 'working' | 'done' | 'refused';
  done: string;
  problem: string;
};

export const newRow = (file: File): Row => ({
  id: crypto.randomUUID(),
  file,
  share: 0,
  upload: null,
  match: null,
  title: '',
  number: '',
  label: '',
  metadata: {},
  as: 'new',
  state: 'sending',
  done: '',
  problem: '',
});

/** Metadata from the file, where the row has none yet. */
export const withSaid = (row: Row, type: TypeInfo | undefined): Row => {
  if (!type || !row.match || row.state === 'done') return row;
  const named = toValues(metadataFromNamed(type.fields, row.match.named));
  const fresh = Object.entries(named).filter(([key]) => !row.metadata[key]);
  return fresh.length ? { ...row, metadata: { ...row.metadata, ...Object.fromEntries(fresh) } } : row;
};

/** The columns of the grid that are typed into: title, number and label of a maker, then the metadata that can be typed. */
export type Column = {
  key: string;
  label: string;
  needed: boolean;
  options?: readonly { code: string; text: string }[];
  isDay?: boolean;
};

const TYPED = new Set(['text', 'long text', 'number', 'date', 'choice', 'yes/no', 'document', 'web address']);

export const columnsOf = (type: TypeInfo | undefined): Column[] => [
  { key: 'title', label: wording.title, needed: true },
  ...(type && !type.numbering ? [{ key: 'number', label: wording.number, needed: true }] : []),
  ...(type?.labelGivenBySupplier ? [{ key: 'label', label: wording.label, needed: true }] : []),
  ...(type?.fields ?? [])
    .filter((field) => TYPED.has(field.kind))
    .map((field) => ({
      key: `field:${field.key}`,
      label: field.label,
      needed: field.mandatory,
      ...(field.kind === 'choice' ? { options: field.options ?? [] } : {}),
      ...(field.kind === 'yes/no'
        ? {
            options: [
              { code: 'true', text: 'yes' },
              { code: 'false', text: 'no' },
            ],
          }
        : {}),
      ...(field.kind === 'date' ? { isDay: true } : {}),
    })),
];

export const cellOf = (row: Row, key: string): string =>
  key.startsWith('field:')
    ? (row.metadata[key.slice('field:'.length)] ?? '')
    : key === 'title'
      ? row.title
      : key === 'number'
        ? row.number
        : row.label;

export const withCell = (row: Row, key: string, value: string): Row =>
  key.startsWith('field:')
    ? { ...row, metadata: { ...row.metadata, [key.slice('field:'.length)]: value } }
    : { ...row, [key]: value };

/** What was copied from a spreadsheet as rows of cells. */
export const cellsOf = (text: string): string[][] =>
  text
    .replace(/\r\n?/g, '\n')
    .replace(/\n$/, '')
    .split('\n')
    .map((line) => line.split('\t').map((cell) => cell.trim()));

/** The value of a pasted cell in its column: a choice by its code or its text, a day as people write it; an unreadable day is empty. */
const asMeant = (column: Column, value: string, readDay: (text: string) => string | undefined): string =>
  column.isDay
    ? (readDay(value) ?? '')
    : (column.options?.find((option) =>
        [option.code, option.text].some((word) => word.toLowerCase() === value.toLowerCase()),
      )?.code ?? value);

/** Puts a block of cells into the grid from one cell on, to the right and down; what would be outside is left out. */
export const pasted = (
  rows: readonly Row[],
  columns: readonly Column[],
  from: { row: number; column: number },
  cells: readonly (readonly string[])[],
  readDay: (text: string) => string | undefined,
): Row[] =>
  rows.map((row, y) => {
    const line = cells[y - from.row];
    if (!line || row.state === 'done') return row;
    return line.reduce((changed, cell, x) => {
      const column = columns[from.column + x];
      return column ? withCell(changed, column.key, asMeant(column, cell, readDay)) : changed;
    }, row);
  });

/** Copies a cell into all rows below it. */
export const filledDown = (rows: readonly Row[], key: string, from: number): Row[] =>
  rows.map((row, y) => (y > from && row.state !== 'done' ? withCell(row, key, cellOf(rows[from] as Row, key)) : row));
