import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { api, TABLE_FORMATS, type TableFormat } from '@kanonos/contract';
import { cellText, type TableCell, toCsv } from '@kanonos/core';
import { useMutation } from '@tanstack/react-query';
import { fetchFile } from '../app/client.ts';
import { saveFile } from './saveFile.ts';
import { toast } from './toast.ts';
import { wording } from './wording.ts';

type Rows = readonly (readonly TableCell[])[];

/** A list that the browser has, or reads to its end: its headings, and its rows when they are wanted. */
export type ShownList = {
  name: string;
  headings: readonly string[];
  rows: () => Rows | Promise<Rows>;
};
/** The list of what is shown: each column with its heading and what stands in it for one row. */
export const listOf = <T,>(
  name: string,
  shown: readonly T[],
  columns: readonly (readonly [heading: string, cell: (row: T) => TableCell])[],
): ShownList => ({
  name,
  headings: columns.map(([heading]) => heading),
  rows: () => shown.map((row) => columns.map(([, cell]) => cell(row))),
});
/** A list that the server reads to its end: the address of its file. */
type ReadList = { addressOf: (format: TableFormat) => string };

const LABEL: Record<TableFormat, string> = { csv: wording.asCsv, xlsx: wording.asWorkbook };

const CSV = 'text/csv;charset=utf-8';
const ITEM = 'block w-full px-3 py-1.5 text-left whitespace-nowrap data-focus:bg-petrol-tint';

/** Hands out the list that is shown as a file for spreadsheets: as CSV, or as a workbook. */
export const ExportMenu = ({
  list,
  disabled = false,
  quiet = false,
}: {
  list: ShownList | ReadList;
  disabled?: boolean;
  /** Among other small commands at the edge of a view. */
  quiet?: boolean;
}) => {
  const write = useMutation({
    mutationFn: async (format: TableFormat) => {
      if ('addressOf' in list) return;
      const { name, headings } = list;
      const rows = await list.rows();
      if (format === 'csv')
        return saveFile(`${name}.csv`, toCsv([headings, ...rows.map((row) => row.map(cellText))]), CSV);
      const body = { name, headings: [...headings], rows: rows.map((row) => [...row]) };
      const workbook = await fetchFile(api.tables.write, { body });
      saveFile(`${name}.xlsx`, workbook, workbook.type);
    },
    onError: (error) => toast.error(error.message),
  });
  return (
    <Menu>
      <MenuButton
        className={`btn whitespace-nowrap ${quiet ? 'btn-quiet !h-6 !px-1 text-[12px]' : ''}`}
        disabled={disabled || write.isPending}
      >
        {write.isPending ? wording.exporting : wording.export} ▾
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        className="z-40 border border-ink bg-sheet py-1 shadow-md outline-none [--anchor-gap:4px]"
      >
        {TABLE_FORMATS.map((format) => (
          <MenuItem key={format}>
            {'addressOf' in list ? (
              <a className={ITEM} href={list.addressOf(format)} download>
                {LABEL[format]}
              </a>
            ) : (
              <button type="button" className={ITEM} onClick={() => write.mutate(format)}>
                {LABEL[format]}
              </button>
            )}
          </MenuItem>
        ))}
      </MenuItems>
    </Menu>
  );
};
