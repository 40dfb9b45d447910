import { z } from 'zod';
import { endpoint } from './endpoint.ts';

export const TABLE_FORMATS = ['csv', 'xlsx'] as const;
export type TableFormat = (typeof TABLE_FORMATS)[number];

const Cell = z.union([z.string().max(5000), z.number(), z.null()]);

/** Lists as files for spreadsheets. */
export const tables = {
  write: endpoint({
    id: 'writeTable',
    feature: 'tables',
    method: 'POST',
    path: '/api/tables',
    summary: 'A list as a workbook (XLSX); days as ISO 8601 become dates of the spreadsheet',
    body: z.strictObject({
      name: z.string().min(1).max(120),
      headings: z.array(z.string().max(200)).min(1).max(60),
      rows: z.array(z.array(Cell).max(60)).max(10_000),
    }),
    stream: 'bytes',
    problems: ['input_invalid'],
  }),
};
