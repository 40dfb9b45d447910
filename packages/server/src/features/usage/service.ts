import { createHash } from 'node:crypto';
import { canonicalJson } from '@kanonos/core';
import type { Actor, App } from '../../platform/app.ts';
import { insertUsage, listUnsealed, setSealed } from './store.ts';

export type UsageAction = 'opened' | 'downloaded' | 'handed out';

/** Records that somebody opened or took a file, stored before the answer; reloads within a minute count once. */
export const recordUsage = (
  app: App,
  use: {
    personId: string;
    documentId: string;
    revisionId: string;
    version: number;
    fileId: string;
    action: UsageAction;
  },
) => insertUsage(app.db, { ...use, now: app.clock() });

const SEAL_BATCH = 50_000;

/** Seals stored lines: one event with their count and SHA-256, so that views are provable without a lock for each. */
export const sealUsage = (app: App, actor: Actor): Promise<number> =>
  app.command(actor, async (work) => {
    const lines = await listUnsealed(work.trx, { limit: SEAL_BATCH });
    if (lines.length === 0) return 0;
    const hash = createHash('sha256');
    for (const line of lines) hash.update(`${canonicalJson({ ...line, at: line.at.toISOString() })}\n`);
    const [first, last] = [lines[0]?.id ?? 0, lines.at(-1)?.id ?? 0];
    await setSealed(work.trx, {
      first,
      last,
    });
    work.record({
      kind: 'usage.sealed',
      subject: {},
      payload: { first, last, lines: lines.length, sha256: hash.digest('hex') },
    });
    return lines.length;
  });
