import { z } from 'zod';
import { Day, Id, Instant, MetadataSchema, text } from './common.ts';
import { endpoint } from './endpoint.ts';
import { RegisterFilter, SEARCH_PROBLEMS } from './find.ts';

/** Most documents that one change reaches, and that one call changes. */
export const BULK_MOST = 20_000;
export const BULK_AT_ONCE = 250;

export const BulkChange = z.strictObject({
  metadata: MetadataSchema.optional(),
  addKeywords: z.array(text(60, 1)).max(30).optional(),
  removeKeywords: z.array(text(60, 1)).max(30).optional(),
  ownerId: Id.optional(),
  folderId: Id.optional(),
  reviewOn: Day.nullable().optional(),
});
export type BulkChange = z.infer<typeof BulkChange>;

const Named = { id: Id, number: z.string(), title: z.string() };
const Refused = z.object({ ...Named, reasons: z.array(z.string()) });
export const BulkTrial = z.object({
  /** Documents that would change, in the order of their numbers. */
  ids: z.array(Id),
  total: z.number().int(),
  unchanged: z.number().int(),
  refusedCount: z.number().int(),
  refused: z.array(Refused),
  sample: z.array(
    z.object({ ...Named, differences: z.array(z.object({ what: z.string(), before: z.string(), after: z.string() })) }),
  ),
});
export type BulkTrial = z.infer<typeof BulkTrial>;
/** The result of a command over many documents: those done, with what was made, and those refused with reasons. */
const Each = z.object({
  done: z.array(z.object({ id: Id, number: z.string(), made: z.string().nullable() })),
  refused: z.array(z.object({ id: Id, number: z.string(), reasons: z.array(z.string()) })),
});
export const BulkSummary = z.object({
  id: Id,
  at: Instant,
  reason: z.string(),
  documents: z.number().int(),
  undone: z.number().int(),
});
export type BulkSummary = z.infer<typeof BulkSummary>;

const PROBLEMS = ['not_found', 'input_invalid', 'bulk_nothing', 'bulk_too_many', 'person_inactive'] as const;

export const bulk = {
  try: endpoint({
    id: 'tryBulk',
    feature: 'bulk',
    method: 'POST',
    path: '/api/bulk/trial',
    summary: 'What a change would do to chosen documents or to all that a filter finds; changes nothing',
    body: z.strictObject({
      ids: z.array(Id).max(BULK_MOST).nullable(),
      filter: z.strictObject(RegisterFilter).nullable(),
      change: BulkChange,
    }),
    answer: BulkTrial,
    problems: [...PROBLEMS, ...SEARCH_PROBLEMS],
  }),
  apply: endpoint({
    id: 'applyBulk',
    feature: 'bulk',
    method: 'POST',
    path: '/api/bulk/:id/apply',
    summary: 'Change a part of the documents of one bulk change, each with its own event; sent twice it changes once',
    params: z.strictObject({ id: Id }),
    body: z.strictObject({ ids: z.array(Id).min(1).max(BULK_AT_ONCE), change: BulkChange, reason: text(500, 1) }),
    answer: z.object({ changed: z.number().int(), refused: z.array(Refused) }),
    problems: PROBLEMS,
  }),
  submit: endpoint({
    id: 'submitMany',
    feature: 'bulk',
    method: 'POST',
    path: '/api/bulk/submit',
    summary: 'Submit drafts, each on the route of its type; those that are refused are named',
    body: z.strictObject({
      ids: z.array(Id).min(1).max(50),
      message: text(2000).default(''),
      chosen: z.array(Id).max(50).default([]),
    }),
    answer: Each,
    problems: ['input_invalid'],
  }),
  copy: endpoint({
    id: 'copyMany',
    feature: 'bulk',
    method: 'POST',
    path: '/api/bulk/copies',
    summary: 'Register a new document from each: its metadata and content, not its history',
    body: z.strictObject({ ids: z.array(Id).min(1).max(50), folderId: Id.nullable().default(null) }),
    answer: Each,
    problems: ['input_invalid'],
  }),
  checkOut: endpoint({
    id: 'checkOutMany',
    feature: 'bulk',
    method: 'POST',
    path: '/api/bulk/check-outs',
    summary: 'Check out many documents, each as if alone; those that cannot be are named with the reason',
    body: z.strictObject({
      ids: z.array(Id).min(1).max(BULK_AT_ONCE),
      note: text(400).default(''),
      expectedBack: Day.nullable().default(null),
    }),
    answer: Each,
    problems: ['input_invalid'],
  }),
  ids: endpoint({
    id: 'idsFound',
    feature: 'bulk',
    method: 'POST',
    path: '/api/bulk/ids',
    summary: 'The documents that a filter finds, for commands over a whole search',
    body: z.strictObject({ filter: z.strictObject(RegisterFilter) }),
    answer: z.object({ ids: z.array(Id) }),
    problems: ['bulk_nothing', 'bulk_too_many', ...SEARCH_PROBLEMS],
  }),
  downloadPackage: endpoint({
    id: 'queueDownloadPackage',
    feature: 'bulk',
    method: 'POST',
    path: '/api/download-packages',
    summary: 'Prepare a download package of documents',
    body: z.strictObject({
      ids: z.array(Id).max(2000).nullable(),
      filter: z.strictObject(RegisterFilter).nullable(),
      /** What is in force, else the newest; or the revision in work. */
      content: z.enum(['released', 'work']).default('released'),
    }),
    answer: z.object({ id: Id, documents: z.number().int() }),
    problems: ['input_invalid', 'bulk_nothing', 'bulk_too_many', ...SEARCH_PROBLEMS],
  }),
  fetchDownloadPackage: endpoint({
    id: 'fetchDownloadPackage',
    feature: 'bulk',
    method: 'GET',
    path: '/api/download-packages/:id',
    summary:
      'A download package of mine as a zip under rule-made names, with a list of what is in it and what was left out',
    params: z.strictObject({ id: Id }),
    stream: 'bytes',
    problems: ['not_found'],
  }),
  undo: endpoint({
    id: 'undoBulk',
    feature: 'bulk',
    method: 'POST',
    path: '/api/bulk/:id/undo',
    summary: 'Undo a part of a bulk change of mine; what was changed again since stays as it is and is named',
    params: z.strictObject({ id: Id }),
    answer: z.object({ undone: z.number().int(), left: z.number().int(), kept: z.array(z.object(Named)) }),
    problems: ['not_found'],
  }),
  mine: endpoint({
    id: 'myBulk',
    feature: 'bulk',
    method: 'GET',
    path: '/api/bulk',
    summary: 'My bulk changes of the last days, the last one first',
    answer: z.object({ changes: z.array(BulkSummary) }),
  }),
};
