import type { TrailRow } from '@kanonos/contract';

const SIGN_INS = new Set(['session.opened', 'session.ended', 'sign-in.failed']);

/** A line of the trail: one event, or the sign-ins and sign-outs between two events of another kind. */
export type TrailLine = { row: TrailRow } | { signIns: readonly TrailRow[] };

/** Events as lines, newest first: consecutive sign-ins are one line, because they bury the rest. A single one stays a line. */
export const foldSignIns = (rows: readonly TrailRow[]): TrailLine[] => {
  const lines: TrailLine[] = [];
  let run: TrailRow[] = [];
  const settle = () => {
    if (run.length > 1) lines.push({ signIns: run });
    else for (const row of run) lines.push({ row });
    run = [];
  };
  for (const row of rows) {
    if (SIGN_INS.has(row.kind)) run.push(row);
    else {
      settle();
      lines.push({ row });
    }
  }
  settle();
  return lines;
};
