import type { RegisterRow } from '@kanonos/contract';
import { useVirtualizer } from '@tanstack/react-virtual';
import { FileText } from 'lucide-react';
import { type DragEvent, useEffect, useRef } from 'react';
import { Link } from 'react-router';
import { NotchBar, RevisionMark } from '../../ui/marks.tsx';
import { useWidth } from '../../ui/useWidth.ts';
import { smallAddress } from '../viewer/HoverPicture.tsx';
import { SmallPicture } from '../viewer/SmallPicture.tsx';
import { keysOf, type ShownDocuments } from './shown.ts';
import { wording } from './wording.ts';

const [CARD, HEIGHT] = [176, 262];

/** Documents by how their first pages look, as many beside each other as there is room for. */
export const PictureGrid = (shown: ShownDocuments) => {
  const { rows, total, selected, select, open, addressOf, marks, mark, drag, more } = shown;
  const scroller = useRef<HTMLDivElement>(null);
  const width = useWidth(scroller);
  const across = Number.isFinite(width) ? Math.max(1, Math.floor(width / CARD)) : 3;
  const virtual = useVirtualizer({
    count: Math.ceil(rows.length / across),
    getScrollElement: () => scroller.current,
    estimateSize: () => HEIGHT,
    overscan: 2,
  });
  const items = virtual.getVirtualItems();
  const lastShown = (items.at(-1)?.index ?? 0) + 1;
  useEffect(() => {
    if (lastShown * across >= rows.length - across) more();
  }, [lastShown, across, rows.length, more]);
  const onKeyDown = keysOf(
    { rows, selected, select, mark, open },
    { ArrowRight: 1, ArrowLeft: -1, ArrowDown: across, ArrowUp: -across },
    (index) => virtual.scrollToIndex(Math.floor(index / across)),
  );
  return (
    <div
      ref={scroller}
      role="grid"
      aria-label={wording.documents}
      aria-rowcount={total === undefined ? -1 : Math.ceil(total / across)}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="min-h-0 flex-1 overflow-y-auto bg-film outline-offset-[-2px]"
    >
      <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {items.map((item) => (
          <div
            key={item.index}
            role="row"
            aria-rowindex={item.index + 1}
            className="absolute right-0 left-0 grid gap-2 px-2 pt-2"
            style={{ top: item.start, height: HEIGHT, gridTemplateColumns: `repeat(${across}, minmax(0, 1fr))` }}
          >
            {rows.slice(item.index * across, (item.index + 1) * across).map((row, i) => {
              const index = item.index * across + i;
              return (
                <Card
                  key={row.revisionId}
                  row={row}
                  address={addressOf(row)}
                  selected={index === selected}
                  onSelect={() => select(index)}
                  marked={marks.has(row.documentId)}
                  onMark={(extend) => mark(row, extend)}
                  onDrag={drag && ((event) => drag(row, event))}
                />
              );
            })}
          </div>
        ))}
      </div>
    </div>
  );
};

const Card = ({
  row,
  address,
  selected,
  onSelect,
  marked,
  onMark,
  onDrag,
}: {
  row: RegisterRow;
  address: string;
  selected: boolean;
  onSelect: () => void;
  marked: boolean;
  onMark: (extend: boolean) => void;
  onDrag: ((event: DragEvent) => void) | undefined;
}) => (
  <div
    role="gridcell"
    aria-selected={selected}
    onClick={onSelect}
    draggable={onDrag !== undefined}
    onDragStart={onDrag}
    className={`flex min-w-0 flex-col border bg-sheet ${selected ? 'border-petrol shadow-[0_0_0_1px_var(--color-petrol)]' : 'border-line'}`}
  >
    <span className="relative flex h-[158px] items-center justify-center border-b border-line-2 bg-film-2 p-2">
      <SmallPicture
        address={smallAddress(row.documentId, row.revisionId)}
        name={row.number}
        className="max-h-full max-w-full"
        instead={<FileText size={34} strokeWidth={1.2} className="text-ink-3" aria-hidden />}
      />
      <input
        type="checkbox"
        tabIndex={-1}
        aria-label={wording.selectNumber(row.number)}
        className="absolute top-2 left-2 accent-petrol"
        checked={marked}
        onClick={(event) => {
          event.stopPropagation();
          onMark(event.shiftKey);
        }}
        onChange={() => {}}
      />
      <span className="absolute right-1.5 bottom-1.5">
        <RevisionMark label={row.label} mark={row.mark} size="small" />
      </span>
    </span>
    <span className="flex min-w-0 flex-col gap-0.5 px-2 py-1.5">
      <Link to={address} tabIndex={-1} className="num truncate hover:underline">
        {row.number}
      </Link>
      <span className="truncate text-[12.5px] font-[550]" title={row.title}>
        {row.title}
      </span>
      <NotchBar state={row.state} words={row.where} isWarning={row.mark === 'on hold'} />
    </span>
  </div>
);
