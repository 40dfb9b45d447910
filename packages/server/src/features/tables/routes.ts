import { api } from '@kanonos/contract';
import { columnWidths } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import { inOnePiece, sendTable } from '../../platform/http/sendTable.ts';
import type { Viewer } from '../access/index.ts';

/** A list that the browser has whole is written here as a workbook: one library for it, in one place. */
export const tablesRoutes = (_app: App, mount: Mount<Viewer>): void => {
  mount(api.tables.write, async ({ body: { name, headings, rows }, response }) => {
    const widths = columnWidths(headings, rows);
    const columns = headings.map((heading, i) => ({ heading, width: widths[i] ?? 12 }));
    await sendTable(response, { name, columns, pieces: inOnePiece(rows) }, 'xlsx');
    return undefined;
  });
};
