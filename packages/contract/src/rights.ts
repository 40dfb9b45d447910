import { RIGHTS } from '@kanonos/core';
import { z } from 'zod';
import { Id, PersonRef, text } from './common.ts';
import { endpoint } from './endpoint.ts';
import { FolderGrant, GrantsGiven } from './filing.ts';

const DocumentParam = z.strictObject({ document: z.string().max(200) });

/** Why a person has rights on a document, or is kept from them. */
export const RightReason = z.object({
  why: z.enum(['entry', 'owner', 'assigned in a step', 'asked to read', 'confidentiality']),
  /** The folder of the entry; null for one of the document itself, and where it is no entry. */
  folder: z.string().nullable(),
  /** Whom the entry is for, or the level of confidentiality. */
  subject: z.string(),
  rights: z.array(z.enum(RIGHTS)),
  withheld: z.boolean(),
});
export type RightReason = z.infer<typeof RightReason>;

/** Rights on one document: entries of its own, who may do what and why, and seeing the application as somebody. */
export const rights = {
  grants: endpoint({
    id: 'documentGrants',
    feature: 'rights',
    method: 'GET',
    path: '/api/documents/:document/grants',
    summary: 'Who has which rights on a document by entries of its own, and by those of its folders',
    params: DocumentParam,
    answer: z.object({
      own: z.array(FolderGrant),
      above: z.array(z.object({ folder: z.string(), grants: z.array(FolderGrant) })),
      /** What the entries are now; named when they are changed. */
      tag: z.string(),
    }),
    problems: ['not_found', 'right_missing'],
  }),
  setGrants: endpoint({
    id: 'setDocumentGrants',
    feature: 'rights',
    method: 'PUT',
    path: '/api/documents/:document/grants',
    summary:
      'Change the rights on one document; an entry of its own replaces those of its folders for the same subject',
    params: DocumentParam,
    body: z.strictObject({ grants: GrantsGiven, tag: z.string().max(40), reason: text(500, 1) }),
    problems: ['not_found', 'right_missing', 'input_invalid', 'nothing_changed', 'changed_meanwhile'],
  }),
  explain: endpoint({
    id: 'explainRights',
    feature: 'rights',
    method: 'GET',
    path: '/api/documents/:document/rights',
    summary:
      'What a person may do with a document, and why: oneself, or anybody for who manages it, administers or audits',
    params: DocumentParam,
    query: z.strictObject({ person: Id.optional() }),
    answer: z.object({
      person: PersonRef,
      rights: z.array(z.enum(RIGHTS)),
      reasons: z.array(RightReason),
      mayAskOthers: z.boolean(),
      mayChange: z.boolean(),
    }),
    problems: ['not_found', 'right_missing'],
  }),
  holders: endpoint({
    id: 'rightHolders',
    feature: 'rights',
    method: 'GET',
    path: '/api/documents/:document/rights/holders',
    summary: 'Who has a right on a document: its owner, people, departments, roles and groups with an entry for it',
    params: DocumentParam,
    query: z.strictObject({ right: z.enum(RIGHTS).default('read') }),
    answer: z.object({ holders: z.array(z.string()) }),
    problems: ['not_found'],
  }),
  seeAs: endpoint({
    id: 'seeAs',
    feature: 'rights',
    method: 'POST',
    path: '/api/session/see-as',
    access: 'administer',
    summary: 'See the application as a person sees it, read only and on record',
    body: z.strictObject({ personId: Id, reason: text(500, 1) }),
    problems: ['not_found', 'input_invalid', 'seeing_as_oneself', 'seeing_as_read_only'],
  }),
  stopSeeingAs: endpoint({
    id: 'stopSeeingAs',
    feature: 'rights',
    method: 'DELETE',
    path: '/api/session/see-as',
    summary: 'See the application as oneself again',
  }),
};
