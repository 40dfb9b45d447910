import type { AnswerOf, api, BodyOf, LinkInfo } from '@kanonos/contract';
import { checkLink, dayOf, type ItemKind, isFolderShut, type LinkKind } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { listScope, type Viewer } from '../access/index.ts';
import { ensureDocumentRight, type Opened, openDocument, runCommand, subjectOf } from '../documents/index.ts';
import * as store from './store.ts';

/** Links of a document from both ends; a link to an invisible document is left out. */
export const linksOf = async (app: App, viewer: Viewer, ref: string): Promise<AnswerOf<typeof api.links.list>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const opened = await openDocument(app.db, viewer, ref, day);
  const scope = { ...(await listScope(app.db, viewer, day)) };
  const { id } = opened.document;
  return {
    from: (await store.listFrom(app.db, id, scope)).map(toLink),
    to: (await store.listTo(app.db, id, scope)).map(toLink),
    mayChange: opened.rights.has('author') && !isFolderShut(opened.document.folder_state),
  };
};

const toLink = (row: store.LinkRow): LinkInfo => ({
  id: row.id,
  kind: row.kind as LinkKind,
  document: row.number
    ? { number: row.number, title: row.title ?? '', label: row.label ?? '', state: row.state ?? '' }
    : null,
  pinned: row.to_revision_id !== null,
  outdated: row.to_revision_id !== null && row.state !== 'in force',
  address: row.address,
  item: row.item as { kind: ItemKind; code: string; name: string } | null,
  note: row.note,
  by: row.by_name,
  at: row.at.toISOString(),
});

const ensureMayLink = (opened: Opened): void => {
  ensureDocumentRight(opened, 'author');
  const { folder_name: folder, folder_state: state } = opened.document;
  if (isFolderShut(state)) throw refused('folder_shut', { folder, state });
};

/** Sets a link. Pinned, it stays with the revision now in force; floating, it follows the one in force. */
export const addLink = (
  app: App,
  viewer: Viewer,
  ref: string,
  { kind, goal, note }: BodyOf<typeof api.links.add>,
): Promise<{ id: string }> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    assertAllowed(checkLink(kind, goal));
    ensureMayLink(opened);
    const { document } = opened;
    const target = goal.to === 'document' ? await openDocument(work.trx, viewer, goal.number, work.day) : undefined;
    if (target?.document.id === document.id) throw refused('link_self');
    if (goal.to === 'document' && goal.pinned && !target?.inForce) throw refused('link_nothing_in_force');
    const id = newId();
    const added = await store.insertLink(work.trx, {
      id,
      documentId: document.id,
      kind,
      toDocumentId: target?.document.id ?? null,
      toRevisionId: goal.to === 'document' && goal.pinned ? (target?.inForce?.id ?? null) : null,
      address: goal.to === 'web' ? goal.address : null,
      item: goal.to === 'item' ? JSON.stringify({ kind: goal.kind, code: goal.code, name: goal.name }) : null,
      note,
      by: viewer.id,
      now: work.now,
    });
    if (added === 0) throw refused('link_there');
    work.record({
      kind: 'link.added',
      subject: subjectOf(document),
      payload: {
        link: id,
        kind,
        to: target?.document.number ?? (goal.to === 'web' ? goal.address : goal.to === 'item' ? goal.code : ''),
      },
    });
    return { id };
  });

export const endLink = (app: App, viewer: Viewer, ref: string, id: string): Promise<void> =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    ensureMayLink(opened);
    const { document } = opened;
    if ((await store.endLink(work.trx, { id, documentId: document.id, now: work.now })) === 0)
      throw refused('not_found');
    work.record({ kind: 'link.removed', subject: subjectOf(document), payload: { link: id } });
  });

export const linkNames = store.linkNames;
