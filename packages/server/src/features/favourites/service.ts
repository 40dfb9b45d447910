import type { api, Desk } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Handler, HandlerOf, ListScope, Viewer } from '../access/index.ts';
import { openDocument } from '../documents/index.ts';
import * as store from './store.ts';

/** Keeps a document at hand, behind those that are kept already, or no longer. It is a matter of the person alone: nothing is recorded. */
export const setFavourite: HandlerOf<typeof api.favourites.set, void> = async (app, viewer, ref, { favourite }) => {
  const { document } = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  const by = { personId: viewer.id, documentId: document.id };
  if (favourite) await store.insertFavourite(app.db, by);
  else await store.deleteFavourite(app.db, by);
};

/** Puts favourites into the given order; those that are not named stay behind them as they were. */
export const orderFavourites: Handler<typeof api.favourites.order, void> = async (app, viewer, { documentIds }) => {
  await store.sortFavourites(app.db, { personId: viewer.id, documentIds });
};

/** The documents that a person keeps at hand, as far as they may see them now. */
export const favouritesOf = async (app: App, viewer: Viewer, scope: ListScope): Promise<Desk['favourites']> =>
  (await store.listFavourites(app.db, viewer.id, scope)).map((row) => ({
    documentId: row.document_id,
    number: row.number,
    title: row.title,
    label: row.label,
    state: row.state,
    onHold: row.on_hold,
  }));

export const isFavourite = (app: App, viewer: Viewer, documentId: string): Promise<boolean> =>
  store.findFavourite(app.db, { personId: viewer.id, documentId });
