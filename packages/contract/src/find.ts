import { z } from 'zod';
import { Day, Id, Instant, PersonRef, State } from './common.ts';
import { DocumentLine, Mark, NextStep } from './documents.ts';
import { endpoint } from './endpoint.ts';
import { TABLE_FORMATS } from './tables.ts';

export const RevisionScope = z.enum(['in force', 'newest', 'all revisions']);
export const SORTS = ['number', 'title', 'changed', 'review', 'effective'] as const;
const List = z.string().max(2000).optional();
/** What narrows the register; several values of one facet are separated by `~`. */
export const RegisterFilter = {
  revisionScope: RevisionScope.default('newest'),
  q: z.string().max(500).default(''),
  state: List,
  area: List,
  type: List,
  department: List,
  owner: List,
  review: z.enum(['overdue', '30', '90']).optional(),
  folder: Id.optional(),
  reach: z.enum(['here', 'below', 'everywhere']).default('below'),
  on: Day.optional(),
};
export const RegisterRow = z.object({
  documentId: Id,
  revisionId: Id,
  number: z.string(),
  title: z.string(),
  label: z.string(),
  mark: Mark,
  state: State,
  type: z.string(),
  typeName: z.string(),
  area: z.string(),
  folder: z.string(),
  owner: z.string(),
  department: z.string().nullable(),
  plannedOn: Day.nullable(),
  effectiveFrom: Instant.nullable(),
  reviewOn: Day.nullable(),
  /** The day by which the open step of its round is due. */
  due: Day.nullable(),
  changedAt: Instant,
  checkout: z.object({ person: z.string(), since: Instant }).nullable(),
  where: z.string(),
  overdue: z.boolean(),
  until: z.array(z.object({ label: z.string(), time: z.string() })),
  /** Metadata that its type shows in lists, in words, by key. */
  metadata: z.record(z.string(), z.string()),
  /** Open threads of comments, for who may read work. */
  openComments: z.number().int(),
  /** Its links in words. */
  links: z.array(z.string()),
});
export type RegisterRow = z.infer<typeof RegisterRow>;
export const FacetValue = z.object({ value: z.string(), name: z.string(), count: z.number().int() });
export const Facets = z.object({
  total: z.number().int(),
  state: z.array(FacetValue),
  area: z.array(FacetValue),
  type: z.array(FacetValue),
  department: z.array(FacetValue),
  review: z.array(FacetValue),
});
export type Facets = z.infer<typeof Facets>;
export const Preview = DocumentLine.extend({
  state: State,
  owner: PersonRef,
  now: z.string().nullable(),
  next: NextStep.nullable(),
  changeKind: z.string(),
  from: z.string().nullable(),
  reason: z.string(),
  summary: z.string(),
  metadata: z.array(z.object({ label: z.string(), before: z.string(), after: z.string() })),
  passage: z.string(),
  /** The passage as it reads, where its text is marked up. */
  passageHtml: z.string().nullable(),
  /** The file of whose first page there is or can be a small picture. */
  smallOf: Id.nullable(),
  readers: z.object({ done: z.number().int(), owed: z.number().int() }),
});
export type Preview = z.infer<typeof Preview>;
export const Hit = DocumentLine.extend({
  state: State,
  where: z.enum(['number', 'title', 'metadata', 'contents']),
  passage: z.string(),
});
export type Hit = z.infer<typeof Hit>;

/** The columns of the register beside number, revision, title and metadata. */
export type RegisterColumn =
  | 'type'
  | 'area'
  | 'folder'
  | 'where'
  | 'state'
  | 'review'
  | 'due'
  | 'owner'
  | 'department'
  | 'changed'
  | 'effective'
  | 'checkout';

const RegisterOrder = {
  sort: z.enum(SORTS).default('number'),
  order: z.enum(['asc', 'desc']).default('asc'),
};

/** What can be wrong with the words of a search. */
export const SEARCH_PROBLEMS = [
  'search_field_unknown',
  'search_value_missing',
  'search_not_comparable',
  'search_date_invalid',
  'search_number_invalid',
  'search_or_alone',
  'search_or_mixed',
  'search_or_not',
  'search_quote_open',
] as const;

export const find = {
  register: endpoint({
    id: 'register',
    feature: 'find',
    method: 'GET',
    path: '/api/register',
    summary: 'The register by revision scope and filters, paged by keyset',
    query: z.strictObject({
      ...RegisterFilter,
      ...RegisterOrder,
      after: z.string().max(600).optional(),
      limit: z.coerce.number().int().min(1).max(200).default(50),
    }),
    answer: z.object({ rows: z.array(RegisterRow), next: z.string().nullable() }),
    problems: ['cursor_invalid', ...SEARCH_PROBLEMS, 'input_invalid'],
  }),
  file: endpoint({
    id: 'registerFile',
    feature: 'find',
    method: 'GET',
    path: '/api/register/file',
    summary:
      'All that a filter finds as a list for spreadsheets; `columns` names those shown, `field:key` for metadata',
    query: z.strictObject({
      ...RegisterFilter,
      ...RegisterOrder,
      format: z.enum(TABLE_FORMATS),
      columns: z.string().max(2000).default(''),
    }),
    stream: 'bytes',
    problems: [...SEARCH_PROBLEMS, 'input_invalid'],
  }),
  facets: endpoint({
    id: 'facets',
    feature: 'find',
    method: 'GET',
    path: '/api/register/facets',
    summary: 'Counts behind each filter value, and of all rows',
    query: z.strictObject(RegisterFilter),
    answer: Facets,
    problems: [...SEARCH_PROBLEMS, 'input_invalid'],
  }),
  preview: endpoint({
    id: 'preview',
    feature: 'find',
    method: 'GET',
    path: '/api/register/preview/:document',
    summary: 'The preview pane: what waits for whom, and what changed',
    params: z.strictObject({ document: Id }),
    query: z.strictObject({ revision: Id.optional() }),
    answer: Preview,
    problems: ['not_found'],
  }),
  find: endpoint({
    id: 'find',
    feature: 'find',
    method: 'GET',
    path: '/api/find',
    summary:
      'The find line: a number typed in any usual form goes there, else titles, metadata and contents are searched',
    query: z.strictObject({ q: z.string().min(1).max(500), limit: z.coerce.number().int().min(1).max(50).default(20) }),
    answer: z.object({ goTo: z.string().nullable(), hits: z.array(Hit), capped: z.boolean() }),
    problems: [...SEARCH_PROBLEMS, 'input_invalid'],
  }),
};
