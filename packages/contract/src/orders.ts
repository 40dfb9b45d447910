import { ORDER_ENDS, ORDER_KINDS, ORDER_STANDINGS } from '@kanonos/core';
import { z } from 'zod';
import { Day, DocumentParam, Id, Instant, PersonRef, text } from './common.ts';
import { Mark } from './documents.ts';
import { endpoint } from './endpoint.ts';

export const Order = z.object({
  id: Id,
  number: z.string(),
  kind: z.enum(ORDER_KINDS),
  /** The document that is to be revised, or that was registered for the order. */
  document: z.object({ id: Id, number: z.string(), label: z.string(), mark: Mark }).nullable(),
  type: z.object({ code: z.string(), name: z.string() }),
  folderId: Id,
  title: z.string(),
  /** The number that is kept for what is to be written. */
  reservedNumber: z.string().nullable(),
  why: z.string(),
  assignee: PersonRef,
  dueOn: Day,
  overdue: z.boolean(),
  by: PersonRef,
  at: Instant,
  standing: z.enum(ORDER_STANDINGS),
  endedReason: z.string().nullable(),
  mine: z.boolean(),
  mayChange: z.boolean(),
});
export type Order = z.infer<typeof Order>;

const Given = { assigneeId: Id, dueOn: Day, why: text(2000, 1) };

/** Orders to write a document or to revise one. */
export const orders = {
  list: endpoint({
    id: 'orders',
    feature: 'orders',
    method: 'GET',
    path: '/api/orders',
    summary: 'Orders that I gave, that are mine, or that concern documents I control, the earliest due first',
    query: z.strictObject({ all: z.enum(['yes']).optional() }),
    answer: z.object({ orders: z.array(Order) }),
  }),
  ofDocument: endpoint({
    id: 'ordersOfDocument',
    feature: 'orders',
    method: 'GET',
    path: '/api/documents/:document/orders',
    summary: 'The open orders to revise a document that I may see',
    params: DocumentParam,
    answer: z.object({ orders: z.array(Order), mayOrder: z.boolean() }),
    problems: ['not_found'],
  }),
  give: endpoint({
    id: 'giveOrder',
    feature: 'orders',
    method: 'POST',
    path: '/api/orders',
    summary: 'Order a document to be written, with its number kept for it, or one to be revised',
    body: z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('revise'), document: text(240, 1), ...Given }),
      z.strictObject({
        kind: z.literal('write'),
        typeId: Id,
        folderId: Id,
        title: text(250, 1),
        reserve: z.boolean().default(true),
        ...Given,
      }),
    ]),
    answer: z.object({ id: Id, number: z.string() }),
    problems: [
      'not_found',
      'right_missing',
      'input_invalid',
      'person_inactive',
      'order_cannot_author',
      'day_not_after_today',
      'already_ordered',
      'type_retired',
      'number_is_external',
      'number_needs_field_value',
    ],
  }),
  change: endpoint({
    id: 'changeOrder',
    feature: 'orders',
    method: 'POST',
    path: '/api/orders/:id',
    summary: 'Give an order to somebody else, or move its day',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({ assigneeId: Id, dueOn: Day, reason: text(500, 1) }),
    problems: [
      'not_found',
      'input_invalid',
      'order_not_yours',
      'order_ended',
      'order_cannot_author',
      'person_inactive',
      'day_not_after_today',
    ],
  }),
  end: endpoint({
    id: 'endOrder',
    feature: 'orders',
    method: 'POST',
    path: '/api/orders/:id/end',
    summary: 'Withdraw an order, or decline one that is mine; a number that was kept for it becomes void',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({ how: z.enum(ORDER_ENDS), reason: text(500, 1) }),
    problems: ['not_found', 'input_invalid', 'order_not_yours', 'order_ended'],
  }),
};
