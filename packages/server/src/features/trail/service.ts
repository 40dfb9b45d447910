import type { Writable } from 'node:stream';
import type { AnswerOf, api, LifelineEntry, QueryOf, TrailRow } from '@kanonos/contract';
import {
  appendLeaf,
  dayOf,
  emptyTree,
  eventLine,
  fromHex,
  type Head,
  headText,
  isReleased,
  rootOf,
  type TrailEvent,
  type Tree,
  toHex,
} from '@kanonos/core';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { sha256 } from '../../platform/trail/append.ts';
import type { Viewer } from '../access/service.ts';
import { openDocument } from '../documents/service.ts';
import { sealUsage } from '../usage/service.ts';
import { eventSentence, eventWords } from './sentences.ts';
import * as store from './store.ts';

const toEvent = (row: store.EventRow) => ({ ...(JSON.parse(row.text) as Omit<TrailEvent, 'hash'>), hash: row.hash });

/** A page of the trail, newest first. */
export const trailPage = async (
  app: App,
  query: QueryOf<typeof api.evidence.trail>,
): Promise<AnswerOf<typeof api.evidence.trail>> => {
  const found = await store.listEvents(app.db, query);
  const names = new Map(
    (await store.namesOfActors(app.db, [...new Set(found.map((row) => row.actor))])).map((p) => [
      p.sign_in_name,
      p.name,
    ]),
  );
  const head = await store.findLastHead(app.db);
  return {
    rows: found.map((row): TrailRow => {
      const event = toEvent(row);
      return {
        seq: row.seq,
        at: row.at.toISOString(),
        actor: row.actor,
        actorName: names.get(row.actor) ?? row.actor,
        forPerson: row.for_name,
        kind: row.kind,
        text: eventSentence(event),
        documentNumber: event.subject.document?.number ?? null,
        label: event.subject.revision?.label ?? null,
        hash: row.hash,
        event: event as unknown as Record<string, unknown>,
      };
    }),
    next: found.length === query.limit ? (found.at(-1)?.seq ?? null) : null,
    kinds: await store.listKinds(app.db),
    total: await store.countEvents(app.db),
    lastHead: head ? { size: head.size, at: head.at.toISOString(), root: head.root } : null,
  };
};

const EXPORT_PIECE = 5_000;

/** Streams the whole trail as JSON Lines in order, each head behind the event it covers. Memory does not grow. */
export const exportTrail = async (app: App, out: Writable): Promise<void> => {
  const heads = await store.listHeads(app.db);
  let after = 0;
  for (;;) {
    const piece = await store.listAfter(app.db, after, EXPORT_PIECE);
    if (piece.length === 0) break;
    let text = '';
    for (const row of piece) {
      text += `${eventLine(row.text, row.hash)}\n`;
      for (const head of heads.filter((h) => h.size === row.seq))
        text += `${JSON.stringify({ kind: 'head', size: head.size, root: head.root, at: head.at.toISOString(), key: head.key, signature: head.signature })}\n`;
    }
    if (!out.write(text)) await new Promise((resolve) => out.once('drain', resolve));
    after = piece.at(-1)?.seq ?? after;
  }
};

/** At each day's end: seals usage and signs the head of the tree over all events so far; once per day. */
export const endDay = async (app: App, day: string): Promise<void> => {
  while ((await sealUsage(app, SYSTEM_CLOCK)) > 0);
  if (await store.findHead(app.db, day)) return;
  const state = await store.findTree(app.db);
  let tree: Tree = state ? { size: state.size, peaks: state.peaks.map(fromHex) } : emptyTree;
  for (;;) {
    const piece = await store.listHashesAfter(app.db, tree.size, EXPORT_PIECE);
    if (piece.length === 0) break;
    for (const row of piece) tree = appendLeaf(tree, row.hash, sha256);
  }
  const head: Head = {
    kind: 'head',
    size: tree.size,
    root: rootOf(tree, sha256),
    at: app.clock().toISOString(),
    key: app.secrets.headsPublicKey,
  };
  await app.db.transaction(async (trx) => {
    await store.insertHead(trx, { day, ...head, signature: app.secrets.signHead(headText(head)) });
    await store.saveTree(trx, { size: tree.size, peaks: tree.peaks.map(toHex) });
  });
};

/** The whole history of a document from its events, newest first; without *read work* only what came into force. */
export const lifeline = async (app: App, viewer: Viewer, ref: string): Promise<{ entries: LifelineEntry[] }> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.house()).zone));
  const events = (await store.listOfDocument(app.db, opened.document.id)).map((row) => ({ row, event: toEvent(row) }));
  const names = new Map(
    (await store.namesOfActors(app.db, [...new Set(events.map(({ row }) => row.actor))])).map((p) => [
      p.sign_in_name,
      p.name,
    ]),
  );
  const released = new Set(opened.revisions.filter((r) => isReleased(r.state)).map((r) => r.label));
  const PUBLIC = /^(document\.registered|revision\.(in-force|superseded|withdrawn|released|reinstated))$/;
  const mayAll = opened.rights.has('read work') || viewer.houseRights.has('audit');
  return {
    entries: events
      .filter(
        ({ row, event }) => mayAll || (PUBLIC.test(row.kind) && released.has(event.subject.revision?.label ?? '')),
      )
      .map(({ row, event }) => ({
        at: row.at.toISOString(),
        kind: row.kind,
        actor: names.get(row.actor) ?? (row.actor.startsWith('system.') ? 'Kanonos' : row.actor),
        forPerson: row.for_name,
        label: event.subject.revision?.label ?? null,
        seq: mayAll ? row.seq : null,
        text: eventSentence(event),
        words: eventWords(event),
      })),
  };
};
