import { randomUUID } from 'node:crypto';
import { hasRight, isInWork, lockSeconds } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { checkOut } from '../authoring/index.ts';
import * as store from './store.ts';
import { type DocumentNode, ensureMayPut, isCollection, type Node, type Place, subjectOf } from './tree.ts';
import { WebdavError } from './webdavError.ts';
import { below, escapeXml, inner, parseBody } from './xml.ts';

/** The locks that hold over a place: its own, and deep ones of the folders above it. */
export const locksOver = async (app: App, place: Pick<Place, 'node' | 'above'>): Promise<store.LockRow[]> => {
  const own = place.node ? subjectOf(place.node) : undefined;
  const subjects = [...place.above.map(subjectOf), ...(own ? [own] : [])];
  const found = await store.listLocks(app.db, { subjects, now: app.clock() });
  return found.filter((lock) => lock.subject === own || lock.deep);
};

const ensureOpened = (locks: readonly store.LockRow[], tokens: ReadonlySet<string>): void => {
  const shut = locks.find((lock) => !lock.shared && !tokens.has(lock.token));
  if (shut) throw new WebdavError(423, `${shut.person_name} has it locked.`, 'lock-token-submitted');
  const shared = locks.filter((lock) => lock.shared);
  if (shared.length > 0 && !shared.some((lock) => tokens.has(lock.token)))
    throw new WebdavError(423, `${shared[0]?.person_name} has it locked.`, 'lock-token-submitted');
};

/**
 * Refuses to change a place whose locks were not handed in. `member`: it enters or leaves its folder, so that a lock on the
 * folder itself counts too; `all`: so does every lock below it.
 */
export const ensureUnlocked = async (
  app: App,
  place: Place,
  tokens: ReadonlySet<string>,
  { member = false, all = false }: { member?: boolean; all?: boolean } = {},
): Promise<void> => {
  const locks = await locksOver(app, place);
  if (member && place.parent) {
    const parent = subjectOf(place.parent);
    const ofParent = await store.listLocks(app.db, { subjects: [parent], now: app.clock() });
    locks.push(...ofParent.filter((lock) => !lock.deep));
  }
  if (all && place.node?.kind === 'drive' && place.node.row.is_folder) {
    const tree = await store.listTree(app.db, place.node.row.id);
    const subjects = tree.slice(1).map((row) => `drive:${row.id}`);
    locks.push(...(await store.listLocks(app.db, { subjects, now: app.clock() })));
  }
  ensureOpened(locks, tokens);
};

export const lockXml = (lock: store.LockRow, href: string, now: Date): string =>
  `<D:activelock><D:locktype><D:write/></D:locktype><D:lockscope><D:${lock.shared ? 'shared' : 'exclusive'}/></D:lockscope>` +
  `<D:depth>${lock.deep ? 'infinity' : '0'}</D:depth><D:owner>${lock.owner || escapeXml(lock.person_name)}</D:owner>` +
  `<D:timeout>Second-${Math.max(1, Math.round((lock.until.getTime() - now.getTime()) / 1000))}</D:timeout>` +
  `<D:locktoken><D:href>${lock.token}</D:href></D:locktoken><D:lockroot><D:href>${escapeXml(href)}</D:href></D:lockroot></D:activelock>`;

export type Wish = { shared: boolean; owner: string };

/** The request in the body of a LOCK (RFC 4918 14.11); without a body a lock is refreshed. */
export const readWish = (text: string): Wish => {
  const root = parseBody(text);
  if (root.localName !== 'lockinfo') throw new WebdavError(400, 'The body of LOCK must be a lockinfo.');
  const [scope] = below(root, 'lockscope');
  const [owner] = below(root, 'owner');
  const shared = scope ? below(scope, 'shared').length > 0 : false;
  if (!scope || (!shared && below(scope, 'exclusive').length === 0))
    throw new WebdavError(422, 'A lock must be exclusive or shared.');
  return { shared, owner: owner ? inner(owner).slice(0, 2000) : '' };
};

/** A document is checked out by its lock; everyone else learns who has it. */
const checkOutForLock = async (app: App, viewer: Viewer, node: DocumentNode): Promise<string | null> => {
  if (!isInWork(node.file.state) || node.file.sort !== 0)
    throw new WebdavError(403, 'A revision in force is read-only. Revise the document to change it.');
  if (node.checkout?.person_id === viewer.id) return null;
  if (node.checkout)
    throw new WebdavError(423, `${node.checkout.person_name} has it checked out.`, 'no-conflicting-lock');
  if (!hasRight(node.rights, 'author')) throw new WebdavError(403, 'You may read it but not change it.');
  await checkOut(app, viewer, node.file.document_id, { seen: '*', note: '', expectedBack: null });
  const [mine] = await store.listCheckouts(app.db, [node.file.document_id]);
  return mine?.id ?? null;
};

/** Gives a lock, making the file when there is none (RFC 4918 7.3). Two exclusive ones never hold over one place. */
export const giveLock = async (
  app: App,
  viewer: Viewer,
  place: Place,
  wish: Wish & { deep: boolean; timeout: string | undefined },
  tokens: ReadonlySet<string>,
): Promise<{ lock: store.LockRow; made: boolean }> => {
  const { node } = place;
  if (node?.kind === 'folder') throw new WebdavError(403, 'A folder of the filing plan cannot be locked.');
  if (node?.kind === 'document' && wish.shared) throw new WebdavError(403, 'Only one person can lock a document.');
  const held = await locksOver(app, place);
  const inside =
    node?.kind === 'drive' && node.row.is_folder && wish.deep
      ? await store.listLocks(app.db, {
          subjects: (await store.listTree(app.db, node.row.id)).slice(1).map((row) => `drive:${row.id}`),
          now: app.clock(),
        })
      : [];
  if ([...held, ...inside].some((lock) => !lock.shared || !wish.shared))
    throw new WebdavError(423, `${held[0]?.person_name ?? viewer.name} has it locked.`, 'no-conflicting-lock');
  const target = node ? undefined : ensureMayPut(place);
  if (target) await ensureUnlocked(app, place, tokens, { member: true });
  const checkoutId = node?.kind === 'document' ? await checkOutForLock(app, viewer, node) : null;
  const id = newId();
  const seconds = lockSeconds(wish.timeout);
  const lock: store.LockRow = {
    token: `urn:uuid:${randomUUID()}`,
    person_id: viewer.id,
    person_name: viewer.name,
    subject: node ? subjectOf(node) : `drive:${id}`,
    shared: wish.shared,
    deep: wish.deep && (node ? isCollection(node) : false),
    owner: wish.owner,
    seconds,
    until: new Date(app.clock().getTime() + seconds * 1000),
    checkout_id: checkoutId,
  };
  await app.command(actorOf(viewer), async (work) => {
    if (target)
      await store.insertNode(work.trx, {
        id,
        personId: viewer.id,
        ...target,
        name: place.path.at(-1) ?? '',
        isFolder: false,
        uploadId: null,
        now: work.now,
        writtenAt: null,
      });
    const { person_name: _, ...row } = lock;
    // Two at once have both found the place free: the constraint lets one of them through.
    await store.deleteRunOutOn(work.trx, { subject: row.subject, now: work.now });
    await store.insertLock(work.trx, row);
  });
  return { lock, made: target !== undefined };
};

/** The locks of a node for its properties, by the subjects that hold them. */
export const discover = (locks: readonly store.LockRow[], href: string, now: Date): string =>
  locks.map((lock) => lockXml(lock, href, now)).join('');

export const supportedLocks = (node: Node): string =>
  node.kind === 'folder' || (node.kind === 'document' && !isInWork(node.file.state))
    ? ''
    : (node.kind === 'document' ? ['exclusive'] : ['exclusive', 'shared'])
        .map(
          (scope) =>
            `<D:lockentry><D:lockscope><D:${scope}/></D:lockscope><D:locktype><D:write/></D:locktype></D:lockentry>`,
        )
        .join('');
