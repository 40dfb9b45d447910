import { appendFile, mkdir, open } from 'node:fs/promises';
import { join } from 'node:path';
import {
  appendLeaf,
  dayInWords,
  dayOf,
  emptyTree,
  fromHex,
  type Head,
  headText,
  rootOf,
  type Tree,
  toHex,
} from '@kanonos/core';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { sha256 } from '../../platform/trail/append.ts';
import { mailAddresses } from '../mailing/index.ts';
import { sealUsage } from '../usage/index.ts';
import * as store from './store.ts';

const PIECE = 5_000;
const PRIVATE = 0o600;

/** The line of a head in an export and in the file of heads. */
export const headLine = (head: Pick<store.HeadRow, 'size' | 'root' | 'at' | 'key' | 'signature'>): string =>
  JSON.stringify({
    kind: 'head',
    size: head.size,
    root: head.root,
    at: head.at.toISOString(),
    key: head.key,
    signature: head.signature,
  });

/**
 * Signs the head of the tree over all events so far (RFC 6962), every quarter of an hour and after signatures: a trail that is cut
 * behind it shows. The head is appended to a file beside the database before it is stored, so that access to one does not give
 * both. Nothing where no event has come since the last one.
 */
export const signHead = async (app: App): Promise<Head | undefined> => {
  const last = await store.findLastHead(app.db);
  let tree: Tree = last?.peaks ? { size: last.size, peaks: last.peaks.map(fromHex) } : emptyTree;
  for (;;) {
    const piece = await store.listHashesAfter(app.db, tree.size, PIECE);
    if (piece.length === 0) break;
    for (const row of piece) tree = appendLeaf(tree, row.hash, sha256);
  }
  if (tree.size === (last?.size ?? 0)) return undefined;
  const now = app.clock();
  const head: Head = {
    kind: 'head',
    size: tree.size,
    root: rootOf(tree, sha256),
    at: now.toISOString(),
    key: app.secrets.headsPublicKey,
  };
  const row = {
    ...head,
    day: dayOf(now, (await app.organisation()).zone),
    signature: app.secrets.signHead(headText(head)),
    peaks: tree.peaks.map(toHex),
  };
  await keepOutside(app, headLine({ ...row, at: now }));
  await app.db.transaction((trx) => store.insertHead(trx, row));
  return head;
};

/** The file in which heads are kept outside the database: one line each, never rewritten. */
export const headsFile = (app: Pick<App, 'config'>): string =>
  app.config.headsFile ?? join(app.config.dataDir, 'heads.jsonl');

const keepOutside = async (app: App, line: string): Promise<void> => {
  const path = headsFile(app);
  await mkdir(join(path, '..'), { recursive: true, mode: 0o700 });
  await appendFile(path, `${line}\n`, { mode: PRIVATE });
  const file = await open(path, 'r');
  try {
    await file.sync();
  } finally {
    await file.close();
  }
};

/** At each day's end: seals usage, signs a head and sends it to the addresses outside that are to keep it. */
export const endDay = async (app: App): Promise<void> => {
  while ((await sealUsage(app, SYSTEM_CLOCK)) > 0);
  await signHead(app);
  const head = await store.findLastHead(app.db);
  if (!head || app.config.headsTo.length === 0) return;
  await app.command(SYSTEM_CLOCK, (work) =>
    mailAddresses(app, work, app.config.headsTo, {
      kind: 'trail head',
      subject: `Audit trail of ${work.organisation.name} on ${dayInWords(work.day)}`,
      lead: `The audit trail has ${head.size} events. Keep this mail: the line below proves if the trail is later cut or rewritten.`,
      quote: headLine(head),
      link: { path: '/trail', label: 'Open the audit trail' },
    }),
  );
};
