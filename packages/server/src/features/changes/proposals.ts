import type { AnswerOf, api } from '@kanonos/contract';
import { dayOf, proposeAffected, type ReachedByChange } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { RefusalError } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { citationsOf } from '../citations/index.ts';
import { openIfVisible, relativesOf } from '../documents/index.ts';
import { linksOf } from '../links/index.ts';
import { openNote } from './service.ts';
import * as store from './store.ts';

type Proposed = ReachedByChange & { number: string; title: string; label: string; state: string };

/** The most documents of a note whose ties are followed, and how far. */
const MOST_FOLLOWED = 20;
const FARTHEST = 2;
const MOST_PROPOSED = 50;

/** What cites a document, directly or through another one. */
const citing = async (app: App, viewer: Viewer, number: string): Promise<Proposed[]> => {
  try {
    const { reached, citedBy } = await citationsOf(app, viewer, number);
    const direct = new Set(citedBy.map((one) => one.id));
    return reached
      .filter((one) => one.distance <= FARTHEST)
      .map(({ id, number: own, title, label, state, distance, path }) => ({
        id,
        number: own,
        title,
        label,
        state,
        distance,
        way: distance > 1 || direct.has(id) ? ('cites' as const) : ('linked' as const),
        via: path.at(1) && distance > 1 ? (path.at(-2) ?? number) : number,
      }));
  } catch (error) {
    // A text that may not be read proposes nothing.
    if (error instanceof RefusalError) return [];
    throw error;
  }
};

/** What lies above and below a document, and what it is linked to. */
const tied = async (app: App, viewer: Viewer, id: string, day: string): Promise<Proposed[]> => {
  const opened = await openIfVisible(app.db, viewer, id, day);
  if (!opened) return [];
  const { number } = opened.document;
  const { parent, children } = await relativesOf(app.db, viewer, opened.document, day);
  const links = (await linksOf(app, viewer, id)).from.flatMap((link) => (link.document ? [link.document] : []));
  const found: Proposed[] = [
    ...(parent ? [{ ...parent, way: 'above' as const, via: number, distance: 1 }] : []),
    ...children.map((child) => ({ ...child, way: 'below' as const, via: number, distance: 1 })),
  ];
  for (const link of links) {
    const other = await openIfVisible(app.db, viewer, link.number, day);
    if (other) found.push({ ...link, id: other.document.id, way: 'linked', via: number, distance: 1 });
  }
  return found;
};

/** What else a change could affect: what cites or links the documents of a note, and what lies above or below them. */
export const proposedForChangeNote = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.changes.proposals>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const note = await openNote(app, viewer, ref);
  const affected = await store.listAffected(app.db, note.document.id);
  const found: Proposed[] = [];
  for (const row of affected.slice(0, MOST_FOLLOWED))
    found.push(...(await citing(app, viewer, row.number)), ...(await tied(app, viewer, row.document_id, day)));
  const present = new Set([note.document.id, ...affected.map((row) => row.document_id)]);
  return { proposals: proposeAffected(found, present).slice(0, MOST_PROPOSED) };
};
