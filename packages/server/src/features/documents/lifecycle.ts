import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import type { Viewer } from '../access/index.ts';
import type { Opened, RouteSituation } from './service.ts';

/** What a command on a document needs of features that build on documents: they join it when the application starts. */
export type Lifecycle = {
  /** Whether time has something to do with the document on this day. */
  isDue: (db: Db, documentId: string, day: string) => Promise<boolean>;
  /** Brings into force and withdraws what is due, under the document's lock. */
  applyDue: (app: App, work: UnitOfWork, documentId: string) => Promise<boolean>;
  /** What the rules of the life of a revision need to know of its route and its open round. */
  routeSituation: (app: App, db: Db | Trx, opened: Opened, viewer: Viewer, day: string) => Promise<RouteSituation>;
};

let joined: Lifecycle | undefined;

export const joinLifecycle = (lifecycle: Lifecycle): void => {
  joined = lifecycle;
};

export const lifecycle = (): Lifecycle => {
  if (!joined) throw new Error('the life of documents is not joined: create the application with createKanonos');
  return joined;
};
