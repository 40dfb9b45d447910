import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import type { RegisterRow } from '@kanonos/contract';
import { Link2 as LinkIcon, MessageSquare } from 'lucide-react';
import type { DragEvent, ReactNode } from 'react';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { showDayNarrow, showInstantDay } from '../../ui/format.ts';
import { NotchBar, RevisionMark } from '../../ui/marks.tsx';
import { HoverPicture, smallAddress } from '../viewer/HoverPicture.tsx';
import { SmallPicture } from '../viewer/SmallPicture.tsx';
import { fieldColumn } from './useColumns.ts';
import { wording } from './wording.ts';

export type SortKey = 'number' | 'title' | 'changed' | 'review' | 'effective';
type ColumnKey = 'picture' | 'area' | 'where' | 'due' | 'review' | 'owner' | 'changed' | 'effective';
export type Column = {
  title: string;
  width: string;
  sort?: SortKey;
  cell: (row: RegisterRow, zone: string) => ReactNode;
};
/** Columns by key, in the order in which they are offered. */
export type Columns = Readonly<Record<string, Column>>;

const FIXED: Record<ColumnKey, Column> = {
  picture: {
    title: wording.page,
    width: '38px',
    cell: (row) => (
      <SmallPicture
        address={smallAddress(row.documentId, row.revisionId)}
        name={row.number}
        className="mx-auto max-h-[42px] max-w-full"
      />
    ),
  },
  area: {
    title: wording.area,
    width: '96px',
    cell: (row) => (
      <span className="block truncate text-[12px] text-ink-2" title={row.area}>
        {row.area}
      </span>
    ),
  },
  where: {
    title: wording.status,
    width: '136px',
    cell: (row) => (
      <NotchBar
        isWarning={row.mark === 'on hold'}
        state={row.state}
        words={
          row.until.length
            ? `${row.where} (${row.until.map((u) => wording.uUntilTime(u.label, u.time)).join(', ')})`
            : row.where
        }
      />
    ),
  },
  due: {
    title: wording.due,
    width: '74px',
    cell: (row) => (
      <span className={`num ${row.overdue ? 'text-vermilion' : ''}`}>{row.due ? showDayNarrow(row.due) : '–'}</span>
    ),
  },
  review: {
    title: wording.review,
    width: '74px',
    sort: 'review',
    cell: (row) => (
      <span className="num">{row.reviewOn && row.state === 'in force' ? showDayNarrow(row.reviewOn) : '–'}</span>
    ),
  },
  owner: {
    title: wording.owner,
    width: '110px',
    cell: (row) => (
      <span className="block truncate text-[12px] text-ink-2" title={row.owner}>
        {row.owner}
      </span>
    ),
  },
  changed: {
    title: wording.changed,
    width: '82px',
    sort: 'changed',
    cell: (row, zone) => <span className="num">{showInstantDay(row.changedAt, zone)}</span>,
  },
  effective: {
    title: wording.effective,
    width: '82px',
    sort: 'effective',
    cell: (row, zone) => <span className="num">{showInstantDay(row.effectiveFrom, zone)}</span>,
  },
};

/** Between two columns, in pixels. */
const GAP = 10;

/** What every document has, then the metadata that types show in lists. */
export const columnsWith = (metadata: readonly { key: string; label: string }[]): Columns => ({
  ...FIXED,
  ...Object.fromEntries(
    metadata.map(({ key, label }) => [
      fieldColumn(key),
      {
        title: label,
        width: '86px',
        cell: (row: RegisterRow) => (
          <span className="block truncate text-[12px]" title={row.metadata[key]}>
            {row.metadata[key] ?? ''}
          </span>
        ),
      },
    ]),
  ),
});

export const NARROWEST = 48;
export const WIDEST = 420;

/** The columns with the widths that a person gave them, in pixels. */
export const withWidths = (all: Columns, widths: Readonly<Record<string, number>>): Columns =>
  Object.fromEntries(
    Object.entries(all).map(([key, column]) => {
      const width = widths[key];
      return [key, width === undefined ? column : { ...column, width: `${width}px` }];
    }),
  );

/** Which columns are shown; the table stays readable in the width there is. */
export const ColumnMenu = ({
  all,
  columns,
  hidden,
  toggle,
}: {
  all: Columns;
  columns: readonly string[];
  /** How many of them the window has no room for. */
  hidden: number;
  toggle: (key: string) => void;
}) => (
  <Menu>
    <MenuButton className="btn btn-quiet !h-6 !px-1 text-[12px]">
      {wording.columns}
      {hidden > 0 && ` (${hidden} hidden)`} ▾
    </MenuButton>
    <MenuItems anchor="top start" className="z-40 w-44 border border-ink bg-sheet py-1 [--anchor-gap:4px]">
      {Object.entries(all).map(([key, { title }]) => (
        <MenuItem key={key}>
          <button
            type="button"
            aria-pressed={columns.includes(key)}
            onClick={() => toggle(key)}
            className="block w-full px-3 py-1 text-left data-focus:bg-petrol-tint"
          >
            {columns.includes(key) ? '✓ ' : '  '}
            {title}
          </button>
        </MenuItem>
      ))}
    </MenuItems>
  </Menu>
);

/** What every row takes before its columns: edge, mark, revision, a title that can be read, and the gaps between. */
const FIRST = 24 + 14 + 38 + 190 + 2 * GAP;

/** The columns that a width has room for: state and owner, metadata of its type, then the others, last chosen first. */
export const columnsThatFit = (all: Columns, columns: readonly string[], width: number): string[] => {
  const rank = (key: string) =>
    key === 'where' ? 0 : key === 'owner' ? 1 : key === 'due' ? 2 : key.startsWith('field:') ? 3 : 4;
  let room = width - FIRST;
  const fit = new Set<string>();
  for (const key of [...columns].reverse().sort((a, b) => rank(a) - rank(b))) {
    room -= Number.parseInt(all[key]?.width ?? '0', 10) + GAP;
    if (room < 0) break;
    fit.add(key);
  }
  return columns.filter((key) => fit.has(key));
};

/** The grid of a row: edge, revision, title, then the columns by their widths. */
export const template = (all: Columns, columns: readonly string[]) =>
  `14px 38px minmax(0,1fr) ${columns.map((key) => all[key]?.width).join(' ')}`;

export const RegisterRowView = ({
  row,
  all,
  columns,
  shape,
  height,
  top,
  selected,
  address,
  onSelect,
  index,
  marked,
  onMark,
  onDrag,
}: {
  row: RegisterRow;
  all: Columns;
  columns: readonly string[];
  shape: 'compact' | 'comfortable' | 'card';
  height: number;
  top: number;
  selected: boolean;
  address: string;
  onSelect: () => void;
  index: number;
  marked: boolean;
  /** With the shift key everything between the last mark and this one. */
  onMark: (extend: boolean) => void;
  onDrag: ((event: DragEvent) => void) | undefined;
}) => {
  const me = useMe();
  return (
    <div
      role="row"
      aria-rowindex={index + 1}
      aria-selected={selected}
      onClick={onSelect}
      draggable={onDrag !== undefined}
      onDragStart={onDrag}
      className={`absolute right-0 left-0 grid items-center gap-2.5 border-b border-line-2 px-3 ${selected ? 'bg-petrol-tint shadow-[inset_3px_0_0_var(--color-petrol)]' : ''}`}
      style={{ top, height, gridTemplateColumns: template(all, columns) }}
    >
      <span role="gridcell">
        <input
          type="checkbox"
          tabIndex={-1}
          aria-label={wording.selectNumber(row.number)}
          className="accent-petrol align-middle"
          checked={marked}
          onClick={(event) => {
            event.stopPropagation();
            onMark(event.shiftKey);
          }}
          onChange={() => {}}
        />
      </span>
      <span role="gridcell">
        <RevisionMark label={row.label} mark={row.mark} size={shape === 'compact' ? 'small' : 'normal'} />
      </span>
      <span
        role="gridcell"
        title={row.title}
        className={`min-w-0 ${shape === 'compact' ? 'flex items-baseline gap-2 whitespace-nowrap' : ''}`}
      >
        <span className="flex items-baseline gap-2">
          <HoverPicture document={row.documentId} revision={row.revisionId} name={row.number}>
            <Link to={address} tabIndex={-1} className="num hover:underline">
              {row.number}
            </Link>
          </HoverPicture>
          {row.checkout && (
            <span className="truncate text-[11.5px] text-ink-3">
              {wording.checkedOutTo(row.checkout.person, showInstantDay(row.checkout.since, me.organisation.zone))}
            </span>
          )}
        </span>
        <span className="flex min-w-0 items-center gap-1">
          <span className={`font-[550] ${shape === 'card' ? 'line-clamp-2' : 'truncate'}`}>{row.title}</span>
          {row.openComments > 0 && (
            <Link
              to={`${address}${address.includes('?') ? '&' : '?'}side=comments`}
              tabIndex={-1}
              className="flex shrink-0 items-center gap-0.5 text-[11px] text-ochre"
              aria-label={wording.openCommentsOpenPart(
                row.openComments,
                row.openComments === 1 ? 'comment' : 'comments',
              )}
              title={wording.openCommentsOpenPart(row.openComments, row.openComments === 1 ? 'comment' : 'comments')}
            >
              <MessageSquare size={11} aria-hidden />
              <span className="num">{row.openComments}</span>
            </Link>
          )}
          {row.links.length > 0 && (
            <span
              role="img"
              className="shrink-0 text-ink-3"
              aria-label={wording.linksLinks(row.links.join('; '))}
              title={row.links.join('\n')}
            >
              <LinkIcon size={11} aria-hidden />
            </span>
          )}
        </span>
        {shape === 'card' && (
          <span className={`block truncate text-[12px] ${row.overdue ? 'text-vermilion' : 'text-ink-2'}`}>
            {row.where} · {row.owner}
          </span>
        )}
      </span>
      {columns.map((key) => (
        <span
          key={key}
          role="gridcell"
          className={`min-w-0 ${key === 'where' && row.overdue ? 'text-vermilion' : ''} ${shape === 'compact' ? 'truncate [&_.notch]:hidden' : ''}`}
        >
          {all[key]?.cell(row, me.organisation.zone)}
        </span>
      ))}
    </div>
  );
};
