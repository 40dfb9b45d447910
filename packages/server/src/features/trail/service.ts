import type { Writable } from 'node:stream';
import type { AnswerOf, api, QueryOf, TrailRow } from '@kanonos/contract';
import {
  dayOf,
  type EventKind,
  endInstantOf,
  eventLine,
  firstInstantOf,
  isDay,
  isReleased,
  KINDS_OF_TOPIC,
  type TrailEvent,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { drained } from '../../platform/http/drained.ts';
import type { Viewer } from '../access/index.ts';
import { openDocument } from '../documents/index.ts';
import { headLine } from './heads.ts';
import { eventSentence, eventWords } from './sentences.ts';
import * as store from './store.ts';

type TrailEventRead = ReturnType<typeof toEvent>;
const toEvent = (row: store.EventRow) => ({ ...(JSON.parse(row.text) as Omit<TrailEvent, 'hash'>), hash: row.hash });

/** Events of the trail as rows, newest first, a page at a time. */
export const trailRows = async (
  app: App,
  query: QueryOf<typeof api.evidence.trail>,
): Promise<{ rows: TrailRow[]; next: number | null }> => {
  // The hashed event is shown, never a column beside it.
  const { zone } = await app.organisation();
  const bound = (value: string | undefined, ofDay: (day: string, zone: string) => Date) =>
    value && isDay(value) ? ofDay(value, zone).toISOString() : value;
  const found = (
    await store.listEvents(app.db, {
      ...query,
      from: bound(query.from, firstInstantOf),
      to: bound(query.to, endInstantOf),
    })
  ).map(toEvent);
  const names = new Map(
    (await store.namesOfActors(app.db, [...new Set(found.map((event) => event.actor))])).map((p) => [
      p.sign_in_name,
      p.name,
    ]),
  );
  return {
    rows: found.map(
      (event): TrailRow => ({
        seq: event.seq,
        at: event.at,
        actor: event.actor,
        actorName: names.get(event.actor) ?? event.actor,
        forPerson: event.for ?? null,
        kind: event.kind,
        text: eventSentence(event),
        documentNumber: event.subject.document?.number ?? null,
        label: event.subject.revision?.label ?? null,
        hash: event.hash,
        event: event as unknown as Record<string, unknown>,
      }),
    ),
    next: found.length === query.limit ? (found.at(-1)?.seq ?? null) : null,
  };
};

/** A page of the trail with what is shown around it: how many events there are, their kinds, the last signed head. */
export const trailPage = async (
  app: App,
  query: QueryOf<typeof api.evidence.trail>,
): Promise<AnswerOf<typeof api.evidence.trail>> => {
  const head = await store.findLastHead(app.db);
  return {
    ...(await trailRows(app, query)),
    kinds: await store.listKinds(app.db),
    person: query.person ? await store.nameOfActor(app.db, query.person) : null,
    total: await store.countEvents(app.db),
    lastHead: head ? { size: head.size, at: head.at.toISOString(), root: head.root } : null,
  };
};

const EXPORT_PIECE = 5_000;

/** Streams the whole trail as JSON Lines in order, each head after the event it covers. Memory does not grow. */
export const exportTrail = async (app: App, out: Writable): Promise<void> => {
  const heads = await store.listHeads(app.db);
  let after = 0;
  for (;;) {
    const piece = await store.listAfter(app.db, after, EXPORT_PIECE);
    if (piece.length === 0) break;
    let text = '';
    for (const row of piece) {
      text += `${eventLine(row.text, row.hash)}\n`;
      for (const head of heads.filter((h) => h.size === row.seq)) text += `${headLine(head)}\n`;
    }
    // Who leaves while it is written leaves nobody waiting.
    if (out.destroyed) return;
    if (!out.write(text)) await drained(out);
    after = piece.at(-1)?.seq ?? after;
  }
};

const HISTORY_AT_ONCE = 100;
const PUBLIC_KINDS: readonly EventKind[] = [
  'document.registered',
  'revision.in-force',
  'revision.superseded',
  'revision.withdrawn',
  'revision.released',
  'revision.reinstated',
];

/** The history of a document from its events, newest first, a page at a time; without *read work* only what came into force. */
export const history = async (
  app: App,
  viewer: Viewer,
  ref: string,
  { topic, before, limit = HISTORY_AT_ONCE }: Partial<QueryOf<typeof api.documents.history>> = {},
): Promise<AnswerOf<typeof api.documents.history>> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  const mayAll = opened.rights.has('read work') || viewer.organisationRights.has('audit');
  const ofTopic = topic ? KINDS_OF_TOPIC[topic] : null;
  const kinds = mayAll ? ofTopic : PUBLIC_KINDS.filter((kind) => !ofTopic || ofTopic.includes(kind));
  const found = await store.listOfDocument(app.db, {
    documentId: opened.document.id,
    kinds,
    before: before ?? null,
    limit,
  });
  const events = found.map(toEvent);
  const names = new Map(
    (await store.namesOfActors(app.db, [...new Set(events.map((event) => event.actor))])).map((p) => [
      p.sign_in_name,
      p.name,
    ]),
  );
  const released = new Set(opened.revisions.filter((r) => isReleased(r.state)).map((r) => r.label));
  const isPublic = (event: TrailEventRead) =>
    PUBLIC_KINDS.includes(event.kind as EventKind) && released.has(event.subject.revision?.label ?? '');
  return {
    entries: events
      .filter((event) => mayAll || isPublic(event))
      .map((event) => ({
        at: event.at,
        kind: event.kind,
        actor: names.get(event.actor) ?? (event.actor.startsWith('system.') ? 'Kanonos' : event.actor),
        forPerson: event.for ?? null,
        label: event.subject.revision?.label ?? null,
        seq: mayAll ? event.seq : null,
        text: eventSentence(event),
        comment: eventWords(event),
      })),
    next: events.length >= limit ? (events.at(-1)?.at ?? null) : null,
  };
};
