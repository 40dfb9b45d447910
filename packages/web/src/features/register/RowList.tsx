import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { type Columns, RegisterRowView } from './columns.tsx';
import { keysOf, type ShownDocuments } from './shown.ts';
import { wording } from './wording.ts';

const ROW = { compact: 27, comfortable: 50, card: 84 };

/** Documents as rows, drawn as far as they are looked at. */
export const RowList = ({
  all,
  columns,
  compact,
  ...shown
}: ShownDocuments & { all: Columns; columns: readonly string[]; compact: boolean }) => {
  // Where no column has room a row is a card, which shows the column values below its title.
  const shape = columns.length === 0 ? 'card' : compact ? 'compact' : 'comfortable';
  const { rows, total, selected, select, open, addressOf, marks, mark, drag, more } = shown;
  const scroller = useRef<HTMLDivElement>(null);
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => ROW[shape],
    overscan: 12,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: another shape has another height
  useEffect(() => virtual.measure(), [shape]);
  const items = virtual.getVirtualItems();
  const lastShown = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (lastShown >= rows.length - 12) more();
  }, [lastShown, rows.length, more]);
  const onKeyDown = keysOf(
    { rows, selected, select, mark, open },
    { ArrowDown: 1, ArrowUp: -1, PageDown: 10, PageUp: -10 },
    (index) => virtual.scrollToIndex(index),
  );
  return (
    <div
      ref={scroller}
      role="grid"
      aria-rowcount={total ?? -1}
      aria-label={wording.documents}
      tabIndex={0}
      onKeyDown={onKeyDown}
      className="min-h-0 flex-1 overflow-y-auto outline-offset-[-2px]"
    >
      <div role="rowgroup" style={{ height: virtual.getTotalSize(), position: 'relative' }}>
        {items.map((item) => {
          const row = rows[item.index];
          return (
            row && (
              <RegisterRowView
                key={row.revisionId}
                row={row}
                all={all}
                columns={columns}
                shape={shape}
                height={ROW[shape]}
                top={item.start}
                selected={item.index === selected}
                address={addressOf(row)}
                onSelect={() => select(item.index)}
                index={item.index}
                marked={marks.has(row.documentId)}
                onMark={(extend) => mark(row, extend)}
                onDrag={drag && ((event) => drag(row, event))}
              />
            )
          );
        })}
      </div>
    </div>
  );
};
