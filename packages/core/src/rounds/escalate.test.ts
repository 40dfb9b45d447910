import { describe, expect, it } from 'vitest';
import type { Escalation } from '../routes/route.ts';
import { dueEscalations } from './escalate.ts';

const rules: Escalation[] = [
  { afterDays: 10, action: 'hand over', to: { by: 'supervisor' } },
  { afterDays: 3, action: 'remind' },
  { afterDays: 6, action: 'tell', to: { by: 'submitter' } },
];
const due = (waited: number, done: number[] = []) =>
  dueEscalations(rules, waited, new Set(done)).map((one) => one.place);

describe('escalations', () => {
  it('are due once their days have passed, the earliest first', () => {
    expect(due(2)).toEqual([]);
    expect(due(3)).toEqual([1]);
    expect(due(12)).toEqual([1, 2, 0]);
  });

  it('are carried out once', () => {
    expect(due(7, [1])).toEqual([2]);
    expect(due(12, [0, 1, 2])).toEqual([]);
  });
});
