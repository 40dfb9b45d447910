import type { SignatoryCell, SignatoryRow, Unit } from '@kanonos/contract';
import { Link } from 'react-router';
import { showDay } from '../../../ui/format.ts';
import { askedWords, keyOf, placeWords, type Table } from './cells.ts';
import { wording } from './wording.ts';

type Props = {
  table: Table;
  columns: readonly { at: number; name: string }[];
  rows: readonly SignatoryRow[];
  units: readonly Unit[];
  chosen: ReadonlySet<string>;
  toggle: (keys: readonly string[], on: boolean) => void;
};

/** Types by steps. A cell is chosen by a press; the head of a column chooses all that it shows. A phone shows each type as a card. */
export const SignatoryTable = (props: Props) => (
  <>
    <div className="overflow-x-auto border border-line bg-sheet max-md:hidden" role="region" aria-label={wording.table}>
      <table className="w-full">
        <Head {...props} />
        <tbody>
          {props.rows.map((row) => (
            <tr key={`${row.typeId} ${row.place}`} className="border-b border-line-2 align-top last:border-0">
              <th
                scope="row"
                className="sticky left-0 z-10 w-56 min-w-44 border-r border-line bg-film-2 px-3 py-1.5 text-left font-normal"
              >
                <RowName row={row} />
              </th>
              {props.columns.map(({ at, name }) => {
                const cell = row.cells[at];
                return (
                  <td key={name} className="min-w-36 p-0">
                    {cell && <Cell {...props} row={row} cell={cell} column={name} />}
                  </td>
                );
              })}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
    <ul className="flex flex-col gap-2 md:hidden">
      {props.rows.map((row) => (
        <li key={`${row.typeId} ${row.place}`} className="border border-line bg-sheet">
          <div className="bg-film-2 px-3 py-2">
            <RowName row={row} />
          </div>
          {props.columns.map(({ at, name }) => {
            const cell = row.cells[at];
            return (
              cell && (
                <div key={name} className="border-t border-line-2">
                  <p className="cap px-3 pt-1.5">{name}</p>
                  <Cell {...props} row={row} cell={cell} column={name} />
                </div>
              )
            );
          })}
        </li>
      ))}
    </ul>
  </>
);

const Head = ({ columns, rows, chosen, toggle }: Props) => (
  <thead className="bg-film-2 text-left">
    <tr className="border-b border-line">
      <th scope="col" className="cap sticky left-0 z-10 border-r border-line bg-film-2 px-3 py-1.5">
        {wording.type}
      </th>
      {columns.map(({ at, name: column }) => {
        const keys = rows.flatMap((row) => {
          const cell = row.cells[at];
          return cell && !row.planned ? [keyOf({ row, cell })] : [];
        });
        const isOn = keys.length > 0 && keys.every((key) => chosen.has(key));
        return (
          <th key={column} scope="col" className="px-1 py-0.5">
            <button
              type="button"
              className="btn-quiet cap min-h-6 w-full px-2 text-left disabled:opacity-60"
              aria-pressed={isOn}
              aria-label={wording.selectStep(column)}
              disabled={keys.length === 0}
              onClick={() => toggle(keys, !isOn)}
            >
              {column}
            </button>
          </th>
        );
      })}
    </tr>
  </thead>
);

const RowName = ({ row }: { row: SignatoryRow }) => (
  <>
    <Link className="num hover:underline" to={`/rules/types/${row.typeId}`}>
      {row.code}
    </Link>{' '}
    <b className="font-semibold">{row.name}</b>
    <span className="block text-[12px] text-ink-2">{placeWords(row)}</span>
    {row.planned && (
      <span className="block text-[12px] text-ochre" title={wording.plannedHint(showDay(row.planned))}>
        {wording.planned(showDay(row.planned))}
      </span>
    )}
  </>
);

const Cell = ({
  row,
  cell,
  column,
  table,
  units,
  chosen,
  toggle,
}: Props & { row: SignatoryRow; cell: SignatoryCell; column: string }) => {
  const key = keyOf({ row, cell });
  const isOn = chosen.has(key);
  const asked = askedWords(table, units, row, cell);
  return (
    <button
      type="button"
      aria-pressed={isOn}
      aria-label={`${wording.select(`${row.code} ${placeWords(row)}`, column)}: ${asked.join(', ') || wording.nobody}`}
      title={wording.kinds[cell.kind] ?? cell.kind}
      disabled={row.planned !== null}
      className={`flex min-h-11 w-full flex-col px-3 py-1.5 text-left disabled:cursor-default ${
        isOn ? 'bg-petrol-tint outline-2 -outline-offset-2 outline-petrol' : 'enabled:hover:bg-film-2'
      }`}
      onClick={() => toggle([key], !isOn)}
    >
      {asked.map((name) => (
        <span key={name} className="block">
          {name}
        </span>
      ))}
      {asked.length === 0 && <span className="text-vermilion">{wording.nobody}</span>}
    </button>
  );
};
