import { z } from 'zod';
import { Id, Instant, PersonRef, State } from './common.ts';
import { endpoint } from './endpoint.ts';

/** The changes of a version since the one before it. */
export const VersionChange = z.object({
  inserted: z.number().int(),
  deleted: z.number().int(),
  moved: z.number().int(),
  places: z.number().int(),
  metadata: z.number().int(),
});
export type VersionChange = z.infer<typeof VersionChange>;

/** A version as a side of a comparison. */
export const ComparedSide = z.object({
  versionId: Id,
  n: z.number().int(),
  label: z.string(),
  state: State,
  note: z.string(),
  by: PersonRef,
  at: Instant,
});
export type ComparedSide = z.infer<typeof ComparedSide>;

const Marked = {
  text: z.string(),
  /** Stretches in bold, from and to, in characters. */
  bold: z.array(z.tuple([z.number().int(), z.number().int()])),
};
export const TextBlock = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('paragraph'), ...Marked }),
  z.object({ kind: z.literal('heading'), level: z.number().int(), ...Marked }),
  z.object({ kind: z.literal('item'), level: z.number().int(), mark: z.string(), ...Marked }),
  z.object({ kind: z.literal('row'), table: z.number().int(), isHead: z.boolean(), ...Marked }),
  z.object({ kind: z.literal('picture'), source: z.string(), description: z.string() }),
]);

export const SideContent = ComparedSide.extend({
  document: z.object({ id: Id, number: z.string() }),
  /** Its originals, of which one is compared. */
  files: z.array(z.object({ id: Id, name: z.string(), mediaType: z.string(), show: z.string() })),
  fileId: Id.nullable(),
  /** `waiting` while the text is being taken out, `none` where there is none, as in a picture. */
  textState: z.enum(['done', 'waiting', 'none', 'broken']),
  /** Pages are parted by form feeds where the file has pages. */
  text: z.string(),
  /** The same text by headings, items, rows of tables and pictures, where the file has such a structure. */
  blocks: z.array(TextBlock).nullable(),
  metadata: z.array(z.object({ label: z.string(), value: z.string() })),
});
export type SideContent = z.infer<typeof SideContent>;

/** Versions beside each other; the comparison itself is made where it is looked at. */
export const comparison = {
  sides: endpoint({
    id: 'comparedSides',
    feature: 'comparison',
    method: 'GET',
    path: '/api/documents/:document/sides',
    summary:
      'The versions of all revisions that I may read, the newest first, and which one is compared with which unless said',
    params: z.strictObject({ document: z.string().max(240) }),
    answer: z.object({
      document: z.object({ id: Id, number: z.string(), title: z.string() }),
      sides: z.array(ComparedSide),
      /** The newest one, and the one that it follows: of the revision before, else the version before. */
      usual: z.object({ old: Id, new: Id }).nullable(),
    }),
    problems: ['not_found'],
  }),
  pair: endpoint({
    id: 'comparedPair',
    feature: 'comparison',
    method: 'GET',
    path: '/api/versions/:version/pair',
    summary: 'The main files of two versions as a zip, for a comparison program of one’s own; both count as downloaded',
    params: z.strictObject({ version: Id }),
    query: z.strictObject({ old: Id }),
    stream: 'bytes',
    problems: ['not_found', 'right_missing', 'content_missing'],
  }),
  side: endpoint({
    id: 'comparedSide',
    feature: 'comparison',
    method: 'GET',
    path: '/api/versions/:version/side',
    summary: 'Text and metadata of a version; looking at them counts as opening its file',
    params: z.strictObject({ version: Id }),
    query: z.strictObject({ file: Id.optional() }),
    answer: SideContent,
    problems: ['not_found', 'right_missing'],
  }),
};
