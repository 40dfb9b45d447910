import { expect, test } from 'vitest';
import { decideOrderChange, isOrderOpen, type OrderActor, orderNumber, orderStanding } from './order.ts';

test('an order is as far as what was begun for it, and open again when that is sent back', () => {
  expect(orderStanding(null, null)).toBe('not begun');
  expect(orderStanding(null, 'draft')).toBe('in writing');
  for (const state of ['in review', 'approved', 'in force', 'superseded'] as const)
    expect(orderStanding(null, state)).toBe('submitted');
  expect(orderStanding('declined', 'draft')).toBe('declined');
  expect(isOrderOpen('in writing') && !isOrderOpen('submitted')).toBe(true);
});

test.each([
  ['withdrawn', { isGiver: true }, []],
  ['withdrawn', { isController: true }, []],
  ['withdrawn', { isAssignee: true }, ['order_not_yours']],
  ['declined', { isAssignee: true }, []],
  ['declined', { isGiver: true, isController: true }, ['order_not_yours']],
  ['changed', { isGiver: true }, []],
] as const)('%s by %o', (what, who, codes) => {
  const actor: OrderActor = { isGiver: false, isAssignee: false, isController: false, ...who };
  const order = { number: orderNumber(2026, 7), standing: 'not begun' as const };
  expect(decideOrderChange(order, what, actor).map(({ code }) => code)).toEqual(codes);
  if (codes.length === 0)
    expect(decideOrderChange({ ...order, standing: 'submitted' }, what, actor)).toMatchObject([
      { code: 'order_ended', params: { number: 'ORD-2026-0007', standing: 'submitted' } },
    ]);
});
