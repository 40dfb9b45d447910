import type { RegisterRow } from '@kanonos/contract';
import type { DragEvent, KeyboardEvent } from 'react';

/** What a view of the register shows, and what may be done in it. */
export type ShownDocuments = {
  rows: readonly RegisterRow[];
  total: number | undefined;
  selected: number;
  select: (index: number) => void;
  open: (row: RegisterRow) => void;
  addressOf: (row: RegisterRow) => string;
  marks: ReadonlySet<string>;
  /** With the second argument everything between the last mark and this one. */
  mark: (row: RegisterRow, extend: boolean) => void;
  drag: ((row: RegisterRow, event: DragEvent) => void) | undefined;
  /** Asks for what comes after. */
  more: () => void;
};

/** Keys of a view: those that step to another document, `Space` to mark it, `Enter` to open it. */
export const keysOf =
  (
    { rows, selected, select, mark, open }: Pick<ShownDocuments, 'rows' | 'selected' | 'select' | 'mark' | 'open'>,
    steps: Readonly<Record<string, number>>,
    show: (index: number) => void,
  ) =>
  (event: KeyboardEvent): void => {
    const step = steps[event.key];
    const current = rows[selected];
    if (step) {
      event.preventDefault();
      const next = Math.max(0, Math.min(rows.length - 1, selected + step));
      select(next);
      show(next);
    } else if (event.key === ' ' && current) {
      event.preventDefault();
      mark(current, event.shiftKey);
    } else if (event.key === 'Enter' && current) open(current);
  };
