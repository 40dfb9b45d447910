import { CITATION_KINDS } from '@kanonos/core';
import { z } from 'zod';
import { Id } from './common.ts';
import { endpoint } from './endpoint.ts';

const Named = z.object({
  id: Id,
  number: z.string(),
  title: z.string(),
  label: z.string(),
  state: z.string(),
  /** In force and not to be used until further notice. */
  onHold: z.boolean(),
});

/** A number that a document cites; its document is included if the viewer may see it. */
export const CitationInfo = z.object({
  number: z.string(),
  label: z.string().nullable(),
  kind: z.enum(CITATION_KINDS),
  times: z.number().int(),
  excerpt: z.string(),
  document: Named.nullable(),
});
export type CitationInfo = z.infer<typeof CitationInfo>;
export const CitingInfo = Named.extend({
  /** The label with which it cites this document; null where it cites the number alone. */
  citedLabel: z.string().nullable(),
  kind: z.enum(CITATION_KINDS),
  excerpt: z.string(),
});
export type CitingInfo = z.infer<typeof CitingInfo>;
export const ReachedInfo = Named.extend({
  distance: z.number().int(),
  /** Numbers from that document to this one. */
  path: z.array(z.string()),
});
export type ReachedInfo = z.infer<typeof ReachedInfo>;

export const citations = {
  ofDocument: endpoint({
    id: 'citations',
    feature: 'citations',
    method: 'GET',
    path: '/api/documents/:document/citations',
    summary: 'What a document cites and what cites it, judged for today, and what a change of it would reach',
    params: z.strictObject({ document: z.string().max(240) }),
    answer: z.object({
      /** Whether all texts have been looked through. */
      complete: z.boolean(),
      cites: z.array(CitationInfo),
      citedBy: z.array(CitingInfo),
      /** All that hangs on it by citations and links, the nearest first, at most so many. */
      reached: z.array(ReachedInfo),
      /** What hangs on what, by numbers. */
      edges: z.array(z.object({ from: z.string(), to: z.string(), by: z.enum(['citation', 'link']) })),
      capped: z.boolean(),
    }),
    problems: ['not_found', 'right_missing'],
  }),
};
