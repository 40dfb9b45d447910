import type { TrailRow } from '@kanonos/contract';
import { expect, it } from 'vitest';
import { foldSignIns } from './foldSignIns.ts';

const row = (seq: number, kind: string) => ({ seq, kind }) as TrailRow;
const shape = (kinds: string[]) =>
  foldSignIns(kinds.map((kind, i) => row(i, kind))).map((line) => ('row' in line ? line.row.seq : line.signIns.length));

it('folds sign-ins and sign-outs that follow each other, and leaves all else in its place', () => {
  expect(shape(['session.opened', 'session.ended', 'decision.given', 'sign-in.failed', 'session.opened'])).toEqual([
    2, 2, 2,
  ]);
  expect(foldSignIns([row(9, 'decision.given')])).toEqual([{ row: row(9, 'decision.given') }]);
});

it('does not fold one alone, nor nothing', () => {
  expect(shape(['session.opened', 'decision.given', 'session.ended'])).toEqual([0, 1, 2]);
  expect(foldSignIns([])).toEqual([]);
});
