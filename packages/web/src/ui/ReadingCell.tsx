const LOOK: Record<string, string> = {
  signed: 'cell-signed',
  carried: 'cell-carried',
  open: 'cell-open',
  overdue: 'cell-overdue',
};

/** The state of one person's reading, always as a word. */
export const ReadingCell = ({ state }: { state: string | null }) => (
  <span className={`cell ${state ? (LOOK[state] ?? 'cell-none') : 'cell-none'}`}>{state ?? '–'}</span>
);
