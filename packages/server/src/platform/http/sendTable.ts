import type { Writable } from 'node:stream';
import type { TableFormat } from '@kanonos/contract';
import { cellDay, cellText, sheetName, type TableCell, toCsv } from '@kanonos/core';
import type { Response } from 'express';
import { drained } from './drained.ts';

/** A list as it leaves: its name, its columns, and its rows in pieces, so that a long one is never held whole. */
export type ListFile = {
  /** The name of the file without its extension, and of the sheet. */
  name: string;
  columns: readonly { heading: string; width: number }[];
  pieces: AsyncIterable<readonly (readonly TableCell[])[]>;
};

const TYPES: Record<TableFormat, string> = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
};

/** Sends a list as a file for spreadsheets while its rows are still being read. */
export const sendTable = async (response: Response, list: ListFile, format: TableFormat): Promise<void> => {
  response.setHeader('Content-Type', TYPES[format]);
  response.setHeader(
    'Content-Disposition',
    `attachment; filename*=UTF-8''${encodeURIComponent(`${list.name}.${format}`)}`,
  );
  response.setHeader('Cache-Control', 'no-store');
  await (format === 'csv' ? writeCsv(response, list) : writeWorkbook(response, list));
};

const writeCsv = async (out: Writable, { columns, pieces }: ListFile): Promise<void> => {
  out.write(toCsv([columns.map((column) => column.heading)]));
  for await (const rows of pieces) {
    // Who cancels the download ends the reading too.
    if (out.destroyed) return;
    const text = toCsv(rows.map((row) => row.map(cellText))).slice(1);
    if (rows.length > 0 && !out.write(text)) await drained(out);
  }
  out.end();
};

const writeWorkbook = async (out: Writable, { name, columns, pieces }: ListFile): Promise<void> => {
  // Loaded on first use: a server that nobody asks for a workbook does not hold the library.
  const { default: ExcelJS } = await import('exceljs');
  const workbook = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: out, useStyles: true });
  const sheet = workbook.addWorksheet(sheetName(name), { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = columns.map(({ heading, width }) => ({ header: heading, width }));
  sheet.getRow(1).font = { bold: true };
  sheet.getRow(1).commit();
  let written = 1;
  for await (const rows of pieces) {
    if (out.destroyed) return;
    for (const cells of rows) {
      const row = sheet.addRow(cells.map((cell) => cellDay(cell) ?? cell));
      cells.forEach((cell, i) => {
        if (cellDay(cell)) row.getCell(i + 1).numFmt = 'd mmm yyyy';
      });
      row.commit();
      written++;
    }
    if (out.writableNeedDrain) await drained(out);
  }
  sheet.autoFilter = { from: { row: 1, column: 1 }, to: { row: written, column: columns.length } };
  sheet.commit();
  await workbook.commit();
};

/** Rows that are all there already, as one piece. */
export const inOnePiece = async function* (rows: readonly (readonly TableCell[])[]) {
  yield rows;
};
