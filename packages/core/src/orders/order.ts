import type { RevisionState } from '../lifecycle/states.ts';
import { type Refusal, refusal } from '../result.ts';

/** What is ordered: a document that is not there yet, or the next revision of one that is. */
export const ORDER_KINDS = ['write', 'revise'] as const;
export type OrderKind = (typeof ORDER_KINDS)[number];

/** How far an order is. It is fulfilled by submitting what was ordered, and open again when that is sent back. */
export const ORDER_STANDINGS = ['not begun', 'in writing', 'submitted', 'declined', 'withdrawn'] as const;
export type OrderStanding = (typeof ORDER_STANDINGS)[number];

/** How an order ends before it is fulfilled: by whoever gave it, or by whoever it was given to. */
export const ORDER_ENDS = ['withdrawn', 'declined'] as const;
export type OrderEnd = (typeof ORDER_ENDS)[number];

export const orderNumber = (year: number, n: number): string => `ORD-${year}-${String(n).padStart(4, '0')}`;

/** The standing of an order by how it ended, or else by the revision that was begun for it. */
export const orderStanding = (ended: OrderEnd | null, revision: RevisionState | null): OrderStanding => {
  if (ended) return ended;
  if (revision === null) return 'not begun';
  return revision === 'draft' ? 'in writing' : 'submitted';
};

export const isOrderOpen = (standing: OrderStanding): boolean => standing === 'not begun' || standing === 'in writing';

/** Who acts on an order. */
export type OrderActor = { isGiver: boolean; isAssignee: boolean; isController: boolean };

/** Why an order cannot be changed or ended so: it has ended, or it is not for this person to do. */
export const decideOrderChange = (
  order: { number: string; standing: OrderStanding },
  what: OrderEnd | 'changed',
  who: OrderActor,
): Refusal[] => {
  const isAllowed = what === 'declined' ? who.isAssignee : who.isGiver || who.isController;
  if (!isAllowed) return [refusal('order_not_yours', { number: order.number })];
  return isOrderOpen(order.standing)
    ? []
    : [refusal('order_ended', { number: order.number, standing: order.standing })];
};
