import type { AnswerOf, api, BodyOf, LinkInfo } from '@kanonos/contract';
import { checkLink, dayOf, ITEM_KINDS, isFolderShut, type LinkKind } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { listScope, type Viewer } from '../access/index.ts';
import { ensureDocumentRight, type Opened, openDocument, runCommand, subjectOf } from '../documents/index.ts';
import { listChoices } from '../rules/index.ts';
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
    itemKinds: (await itemKinds(app.db)).filter((kind) => !kind.retired).map(({ code, text }) => ({ code, text })),
  };
};

/** The kinds of outside items as the organisation lists them. */
const itemKinds = async (db: Db | Trx) =>
  (await listChoices(db)).find((list) => list.key === ITEM_KINDS)?.options ?? [];

/** An item outside with the documents that are linked to it, as far as a viewer may see them. */
export const itemOf = async (
  app: App,
  viewer: Viewer,
  { kind, code }: { kind: string; code: string },
): Promise<AnswerOf<typeof api.links.item>> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const scope = { ...(await listScope(app.db, viewer, day)) };
  const found = await store.listToItem(app.db, { kind, code, ...scope });
  const known = (await itemKinds(app.db)).find((one) => one.code === kind);
  return {
    kind: { code: kind, text: known?.text ?? kind },
    code: found[0]?.code ?? code,
    name: found.findLast((one) => one.name !== '')?.name ?? '',
    documents: found.map((one) => ({
      id: one.id,
      number: one.number,
      title: one.title,
      label: one.label ?? '',
      state: one.state,
      onHold: one.on_hold,
      note: one.note,
      by: one.by_name,
      at: one.at.toISOString(),
    })),
  };
};

const toLink = (row: store.LinkRow): LinkInfo => ({
  id: row.id,
  kind: row.kind as LinkKind,
  document: row.number
    ? {
        number: row.number,
        title: row.title ?? '',
        label: row.label ?? '',
        state: row.state ?? '',
        // Pinned to a revision that is no longer in force, it is not that one which must not be used.
        onHold: row.on_hold === true && row.state === 'in force',
      }
    : null,
  pinned: row.to_revision_id !== null,
  outdated: row.to_revision_id !== null && row.state !== 'in force',
  address: row.address,
  item: row.item as { kind: string; code: string; name: string } | null,
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
    if (goal.to === 'item' && !(await itemKinds(work.trx)).some((one) => one.code === goal.kind && !one.retired))
      throw refused('link_item_kind_unknown', { kind: goal.kind });
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
