import { hash } from 'node:crypto';
import { chainEvents, type EventDraft, type Sha256 } from '@kanonos/core';
import { firstRow, HOT, rows, type Trx } from '../db/connect.ts';

/** One call per hash is several times faster than making a hash object for each. */
export const sha256: Sha256 = (data) => hash('sha256', data, 'buffer');

/**
 * Appends events as the last statements of the transaction of their command. `trail_head` takes the lock and
 * then reads: in one plain statement the snapshot would be older than the lock and the chain would fork.
 */
export const appendEvents = async (trx: Trx, drafts: readonly EventDraft[], now: Date): Promise<number> => {
  if (drafts.length === 0) return 0;
  const last = await firstRow<{ seq: number; hash: string; at: Date }>(
    trx,
    'select seq, hash, at from trail_head()',
    {},
    HOT,
  );
  const chained = chainEvents(drafts, last && { ...last, at: last.at.toISOString() }, now.toISOString(), sha256);
  await rows(
    trx,
    `insert into events (seq, at, actor, for_name, kind, document_id, revision_id, person_id, signature_id, text, hash, prev)
     select * from unnest(:seq::bigint[], :at::timestamptz[], :actor::text[], :forName::text[], :kind::text[],
       :documentId::uuid[], :revisionId::uuid[], :personId::uuid[], :signatureId::uuid[], :text::text[], :hash::text[], :prev::text[])`,
    {
      seq: chained.map(({ event }) => event.seq),
      at: chained.map(({ event }) => event.at),
      actor: chained.map(({ event }) => event.actor),
      forName: chained.map(({ event }) => event.for ?? null),
      kind: chained.map(({ event }) => event.kind),
      documentId: chained.map(({ event }) => event.subject.document?.id ?? null),
      revisionId: chained.map(({ event }) => event.subject.revision?.id ?? null),
      personId: chained.map(({ event }) => event.subject.person?.id ?? null),
      // By it a signature finds its event.
      signatureId: chained.map(({ event }) => event.payload.signature ?? null),
      text: chained.map(({ text }) => text),
      hash: chained.map(({ event }) => event.hash),
      prev: chained.map(({ event }) => event.prev),
    },
    HOT,
  );
  return chained.at(-1)?.event.seq ?? 0;
};
