import type { ReadingState } from '@kanonos/core';

/** What each state looks like; the others are plain words. */
const LOOK: Partial<Record<ReadingState, string>> = {
  signed: 'cell-signed',
  'carried over': 'cell-carried',
  open: 'cell-open',
  overdue: 'cell-overdue',
};

/** The state of one person's reading, always as a word. */
export const ReadingCell = ({ state }: { state: ReadingState | null }) => (
  <span className={`cell ${(state && LOOK[state]) ?? 'cell-none'}`}>{state ?? '–'}</span>
);
