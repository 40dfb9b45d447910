import { typedDay } from '@kanonos/core';
import { ArrowDownToLine } from 'lucide-react';
import { type Dispatch, type SetStateAction, useState } from 'react';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { documentAddress } from '../../ui/addresses.ts';
import { DayInput } from '../../ui/DateField.tsx';
import type { MetadataValues } from '../document/metadataValues.ts';
import { type Column, cellOf, cellsOf, filledDown, pasted, type Row, withCell } from './manyRows.ts';
import { wording } from './wording.ts';

/**
 * A row per file, a cell per field. Cells are pasted from a spreadsheet as a block, and filled down with Ctrl+D or the mark in the
 * head of the column.
 */
export const ManyGrid = ({
  rows,
  setRows,
  patch,
  columns,
  common,
}: {
  rows: readonly Row[];
  setRows: Dispatch<SetStateAction<Row[]>>;
  patch: (id: string, change: Partial<Row>) => void;
  columns: readonly Column[];
  common: MetadataValues;
}) => {
  const { organisation } = useMe();
  const readDay = (text: string) =>
    typedDay(text, organisation.today, { week: organisation.week, holidays: new Set(organisation.holidays) });
  const [at, setAt] = useState({ row: 0, column: 0 });
  const fillDown = (column: Column, from: number) => setRows((before) => filledDown(before, column.key, from));
  return (
    <div className="min-h-0 flex-1 overflow-auto">
      <table className="w-full border-collapse bg-sheet">
        <thead className="sticky top-0 z-10 bg-film-2 text-left">
          <tr className="border-b border-line">
            <th className="cap min-w-52 px-3 py-1.5">{wording.file}</th>
            <th className="cap min-w-44">{wording.becomes}</th>
            {columns.map((column) => (
              <th key={column.key} className={`cap ${column.key === 'title' ? 'min-w-64' : 'min-w-32'}`}>
                <span className="flex items-center gap-1">
                  {column.label}
                  <button
                    type="button"
                    className="p-0.5 text-ink-3 hover:text-petrol"
                    aria-label={wording.fillDown(column.label)}
                    title={wording.copyTheValueOfTheSelected}
                    onClick={() => fillDown(column, Math.min(at.row, rows.length - 1))}
                  >
                    <ArrowDownToLine size={13} aria-hidden />
                  </button>
                </span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, y) => (
            <tr key={row.id} className="border-b border-line-2 align-top">
              <td className="max-w-64 px-3 py-1">
                <span className="block truncate" title={row.file.name}>
                  {row.file.name}
                </span>
                <RowState row={row} />
              </td>
              <td className="py-0.5 pr-2">
                <As row={row} onChange={(as) => patch(row.id, { as })} />
              </td>
              {columns.map((column, x) => (
                <td key={column.key} className="py-0.5 pr-1">
                  <Cell
                    label={wording.columnOfFile(column.label, row.file.name)}
                    column={column}
                    value={cellOf(row, column.key)}
                    common={column.key.startsWith('field:') ? (common[column.key.slice(5)] ?? '') : ''}
                    disabled={row.as !== 'new' || row.state === 'done' || row.state === 'working'}
                    onFocus={() => setAt({ row: y, column: x })}
                    onChange={(value) =>
                      setRows((before) => before.map((r) => (r.id === row.id ? withCell(r, column.key, value) : r)))
                    }
                    onPaste={(text) => {
                      const cells = cellsOf(text);
                      if (cells.length === 1 && cells[0]?.length === 1) return false;
                      setRows((before) => pasted(before, columns, { row: y, column: x }, cells, readDay));
                      return true;
                    }}
                    onFillDown={() => fillDown(column, y)}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
};

const RowState = ({ row }: { row: Row }) => {
  if (row.state === 'sending')
    return (
      <span className="block h-1 bg-line-2">
        <span className="block h-1 bg-petrol" style={{ width: `${row.share * 100}%` }} />
      </span>
    );
  if (row.state === 'done')
    return (
      <Link className="link num" to={documentAddress(row.done)}>
        {row.done}
      </Link>
    );
  if (row.state === 'working') return <span className="text-[11.5px] text-ink-3">{wording.working}</span>;
  return row.problem ? <span className="block text-[11.5px] text-vermilion">{row.problem}</span> : null;
};

const As = ({ row, onChange }: { row: Row; onChange: (as: Row['as']) => void }) => {
  const document = row.match?.document;
  if (row.state === 'done')
    return <span className="text-ink-2">{row.as === 'version' ? wording.aNewVersion : 'registered'}</span>;
  return (
    <>
      <select
        className="inp !min-h-7 !py-0.5"
        aria-label={wording.whatBecomes(row.file.name)}
        value={row.as}
        disabled={row.state === 'working'}
        onChange={(event) => onChange(event.target.value as Row['as'])}
      >
        <option value="new">{wording.aNewDocument}</option>
        {document && <option value="version">{wording.aVersionOf(document.number)}</option>}
        <option value="leave out">{wording.ignored}</option>
      </select>
      {document && (
        <span className="block text-[11px] text-ochre">
          {document.by === 'bytes'
            ? wording.theSameContent
            : document.by === 'name'
              ? wording.theSameName
              : wording.theNumber}
          :{' '}
          <Link className="link num !text-[10.5px]" to={documentAddress(document.number)} target="_blank">
            {document.number}
          </Link>{' '}
          {document.state}
        </span>
      )}
    </>
  );
};

const Cell = ({
  label,
  column,
  value,
  common,
  disabled,
  onFocus,
  onChange,
  onPaste,
  onFillDown,
}: {
  label: string;
  column: Column;
  value: string;
  common: string;
  disabled: boolean;
  onFocus: () => void;
  onChange: (value: string) => void;
  onPaste: (text: string) => boolean;
  onFillDown: () => void;
}) => {
  const props = {
    'aria-label': label,
    className:
      'w-full border border-transparent bg-transparent px-1.5 py-1 hover:border-line focus:border-petrol focus:bg-white disabled:text-ink-3',
    value,
    disabled,
    onFocus,
    onKeyDown: (event: React.KeyboardEvent) => {
      if (event.key.toLowerCase() !== 'd' || !(event.ctrlKey || event.metaKey)) return;
      event.preventDefault();
      onFillDown();
    },
    onPaste: (event: React.ClipboardEvent) => {
      if (onPaste(event.clipboardData.getData('text/plain'))) event.preventDefault();
    },
  };
  if (column.options)
    return (
      <select {...props} onChange={(event) => onChange(event.target.value)}>
        <option value="">{column.options.find((option) => option.code === common)?.text ?? '–'}</option>
        {column.options.map((option) => (
          <option key={option.code} value={option.code}>
            {option.text}
          </option>
        ))}
      </select>
    );
  const placeholder = common || (column.needed ? wording.required : '');
  if (column.isDay) return <DayInput {...props} placeholder={placeholder} onChange={onChange} />;
  return <input {...props} type="text" placeholder={placeholder} onChange={(event) => onChange(event.target.value)} />;
};
