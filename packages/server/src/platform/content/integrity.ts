import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { pipeline } from 'node:stream/promises';
import type { Db } from '../db/connect.ts';
import { firstRow, rows } from '../db/connect.ts';
import { refused } from '../refused.ts';
import type { DiskStore } from './store.ts';

/** The result of a check of stored bytes. */
export type Finding = 'intact' | 'altered' | 'missing';
/** What made somebody look. */
export type FoundBy = 'opening' | 'signing' | 'release' | 'nightly check' | 'check now';

/** The store as services use it: bytes are handed out only when they are those that were stored. */
export type ContentStore = DiskStore & {
  /** Where intact bytes lie. Refuses where they were altered (410) or are missing. */
  intactPath: (sha256: string) => Promise<string>;
  /** Reads the bytes again and compares them with their hash; stores the result, and opens or closes an incident. */
  verify: (sha256: string, by: FoundBy) => Promise<Finding>;
  /** Until everything is written down that was found inside of commands. */
  settled: () => Promise<void>;
};

/** A command holds a connection. A finding within a command is recorded over another connection, for which the command does not wait. */
export type Commands = {
  isInside: () => boolean;
  outside: <T>(task: () => T) => T;
  failed: (error: unknown) => void;
};

const KEPT = 20_000;
const PIECE = 1 << 20;

const hashOf = async (path: string): Promise<string> => {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path, { highWaterMark: PIECE }), hash);
  return hash.digest('hex');
};

type Looked = { finding: Finding; mtimeMs: number | null };

/** Reads the bytes that lie at a path and compares them with their hash. */
const look = async (path: string, sha256: string): Promise<Looked> => {
  const before = await stat(path).catch(() => undefined);
  if (!before?.isFile()) return { finding: 'missing', mtimeMs: null };
  const hash = await hashOf(path).catch(() => undefined);
  if (hash === undefined) return { finding: 'missing', mtimeMs: null };
  return { finding: hash === sha256 ? 'intact' : 'altered', mtimeMs: Math.floor(before.mtimeMs) };
};

/** Records the finding on a content, and opens or closes its incident. */
const note = async (db: Db, now: Date, sha256: string, { finding, mtimeMs }: Looked, by: FoundBy) => {
  await rows(
    db,
    'update contents set checked_on = :now::timestamptz::date, checked_mtime_ms = :mtimeMs, check_failed = :failed where sha256 = :sha256',
    { sha256, now, mtimeMs: finding === 'intact' ? mtimeMs : null, failed: finding !== 'intact' },
  );
  if (finding === 'intact')
    await rows(db, 'update content_incidents set ended_at = :now where sha256 = :sha256 and ended_at is null', {
      sha256,
      now,
    });
  else
    await rows(
      db,
      `insert into content_incidents (id, sha256, what, found_by, found_at)
       select :id, sha256, :what, :by, :now from contents where sha256 = :sha256
       on conflict (sha256) where ended_at is null do nothing`,
      { id: randomUUID(), sha256, what: finding, by, now },
    );
};

const lastCheckOf = (db: Db, sha256: string) =>
  firstRow<{ size: number; checked_mtime_ms: number | null; check_failed: boolean }>(
    db,
    'select size, checked_mtime_ms, check_failed from contents where sha256 = :sha256',
    { sha256 },
  );

const hasIncident = async (db: Db, sha256: string) =>
  (await firstRow(db, 'select 1 from content_incidents where sha256 = :sha256 and ended_at is null', { sha256 })) !==
  undefined;

/** The modification times of files known to be intact, by hash; bounded, and emptied when full. */
const createIntactTimes = () => {
  const times = new Map<string, number>();
  return {
    isKnown: (sha256: string, mtimeMs: number) => times.get(sha256) === mtimeMs,
    remember: (sha256: string, mtimeMs: number) => {
      if (times.size >= KEPT) times.clear();
      times.set(sha256, mtimeMs);
    },
    forget: (sha256: string) => times.delete(sha256),
  };
};

/** Records findings: at once outside of commands, else over another connection, for which the command does not wait. */
const createRecorder = (db: Db, clock: () => Date, commands: Commands) => {
  const writing = new Set<Promise<void>>();
  return {
    record: async (sha256: string, found: Looked, by: FoundBy): Promise<void> => {
      if (!commands.isInside()) return note(db, clock(), sha256, found, by);
      commands.outside(() => {
        const written: Promise<void> = note(db, clock(), sha256, found, by)
          .catch(commands.failed)
          .finally(() => writing.delete(written));
        writing.add(written);
      });
    },
    settled: async (): Promise<void> => {
      while (writing.size > 0) await Promise.all(writing);
    },
  };
};

/**
 * Watches over a store: a content is hashed when it is read for the first time after its file changed (by size or time), and whenever
 * it is signed, released or checked. The time of the file that was found intact is remembered with the content, so that opening a
 * large file costs a look at its time and no more.
 */
export const watchIntegrity = (store: DiskStore, db: Db, clock: () => Date, commands: Commands): ContentStore => {
  const intact = createIntactTimes();
  const findings = createRecorder(db, clock, commands);

  const verify = async (sha256: string, by: FoundBy): Promise<Finding> => {
    const found = await look(store.pathOf(sha256), sha256);
    const { finding, mtimeMs } = found;
    if (finding === 'intact' && mtimeMs !== null) intact.remember(sha256, mtimeMs);
    else intact.forget(sha256);
    await findings.record(sha256, found, by);
    return finding;
  };

  /** The last known result for the stored file; else it is read. */
  const findingOf = async (sha256: string): Promise<Finding> => {
    const info = await stat(store.pathOf(sha256)).catch(() => undefined);
    if (info?.isFile()) {
      const mtimeMs = Math.floor(info.mtimeMs);
      if (intact.isKnown(sha256, mtimeMs)) return 'intact';
      // Within a command the bytes are read instead of trusting the last check.
      if (commands.isInside()) return verify(sha256, 'opening');
      const known = await lastCheckOf(db, sha256);
      if (known && !known.check_failed && known.checked_mtime_ms === mtimeMs && known.size === info.size) {
        intact.remember(sha256, mtimeMs);
        return 'intact';
      }
    }
    return verify(sha256, 'opening');
  };

  const ensureIntact = async (sha256: string) => {
    const finding = await findingOf(sha256);
    if (finding === 'missing') throw refused('content_missing');
    if (finding === 'altered') throw refused('content_altered', { hash: sha256.slice(0, 12) });
  };

  return {
    ...store,
    verify,
    settled: findings.settled,
    put: async (source, limit) => {
      let healed = false;
      const stored = await store.put(source, limit, async (sha256) => {
        healed = (await findingOf(sha256)) !== 'intact';
        return !healed;
      });
      // Who sends the right bytes again puts a content right that was altered: the incident ends.
      if (healed || (stored.fresh && !commands.isInside() && (await hasIncident(db, stored.sha256))))
        await verify(stored.sha256, 'opening');
      else if (stored.fresh) {
        // Its bytes were hashed on their way: until the file changes nobody needs to read them again.
        const info = await stat(store.pathOf(stored.sha256)).catch(() => undefined);
        if (info) intact.remember(stored.sha256, Math.floor(info.mtimeMs));
      }
      return stored;
    },
    open: async (sha256, range) => {
      await ensureIntact(sha256);
      return store.open(sha256, range);
    },
    intactPath: async (sha256) => {
      await ensureIntact(sha256);
      return store.pathOf(sha256);
    },
  };
};
