import { LINK_KINDS } from '@kanonos/core';
import { z } from 'zod';
import { DocumentParam, Id, Instant, text } from './common.ts';
import { Relative } from './documents.ts';
import { endpoint } from './endpoint.ts';

const Linked = z.object({
  number: z.string(),
  title: z.string(),
  label: z.string(),
  state: z.string(),
  onHold: z.boolean(),
});
export const LinkInfo = z.object({
  id: Id,
  kind: z.enum(LINK_KINDS),
  /** The document at the other end; label and state are those of the pinned revision, or of what is in force. */
  document: Linked.nullable(),
  pinned: z.boolean(),
  /** Pinned to a revision that is no longer in force. */
  outdated: z.boolean(),
  address: z.string().nullable(),
  item: z.object({ kind: z.string(), code: z.string(), name: z.string() }).nullable(),
  note: z.string(),
  by: z.string(),
  at: Instant,
});
export type LinkInfo = z.infer<typeof LinkInfo>;

/** A kind of outside item as the organisation lists it. */
const ItemKind = z.object({ code: z.string(), text: z.string() });

/** Links that people set, shown from both ends. */
export const links = {
  list: endpoint({
    id: 'links',
    feature: 'links',
    method: 'GET',
    path: '/api/documents/:document/links',
    summary: 'Links of a document, and those that lead to it from documents that I may see',
    params: DocumentParam,
    answer: z.object({
      from: z.array(LinkInfo),
      to: z.array(LinkInfo),
      mayChange: z.boolean(),
      itemKinds: z.array(ItemKind),
    }),
    problems: ['not_found'],
  }),
  add: endpoint({
    id: 'addLink',
    feature: 'links',
    method: 'POST',
    path: '/api/documents/:document/links',
    summary:
      'Link a document to another one (floating, or pinned to the revision in force), to the web or to an item outside',
    params: DocumentParam,
    body: z.strictObject({
      kind: z.enum(LINK_KINDS),
      goal: z.discriminatedUnion('to', [
        z.strictObject({ to: z.literal('document'), number: text(240, 1), pinned: z.boolean() }),
        z.strictObject({ to: z.literal('web'), address: text(2000, 1) }),
        z.strictObject({ to: z.literal('item'), kind: text(60, 1), code: text(120, 1), name: text(250) }),
      ]),
      note: text(500).default(''),
    }),
    answer: z.object({ id: Id }),
    problems: [
      'not_found',
      'right_missing',
      'folder_shut',
      'link_kind_wrong',
      'link_address_wrong',
      'link_item_wrong',
      'link_item_kind_unknown',
      'link_self',
      'link_there',
      'link_nothing_in_force',
      'input_invalid',
    ],
  }),
  item: endpoint({
    id: 'item',
    feature: 'links',
    method: 'GET',
    path: '/api/items/:kind/:code',
    summary: 'An item outside, with the documents linked to it that I may see',
    params: z.strictObject({ kind: text(60, 1), code: text(120, 1) }),
    answer: z.object({
      kind: ItemKind,
      code: z.string(),
      /** The name that was last given to it. */
      name: z.string(),
      documents: z.array(Relative.extend({ onHold: z.boolean(), note: z.string(), by: z.string(), at: Instant })),
    }),
  }),
  end: endpoint({
    id: 'endLink',
    feature: 'links',
    method: 'DELETE',
    path: '/api/documents/:document/links/:id',
    summary: 'Remove a link',
    params: DocumentParam.extend({ id: Id }),
    problems: ['not_found', 'right_missing', 'folder_shut'],
  }),
};
