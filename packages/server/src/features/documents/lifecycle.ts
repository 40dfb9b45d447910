import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import type { Viewer } from '../access/index.ts';
import type { Opened, RouteSituation } from './service.ts';

/** The parts of a command that later features supply: they register them when the application starts. */
export type Lifecycle = {
  /** Whether time has something to do with the document on this day. */
  isDue: (db: Db, documentId: string, day: string) => Promise<boolean>;
  /** Applies due releases and withdrawals, under the document's lock. */
  applyDue: (app: App, work: UnitOfWork, documentId: string) => Promise<boolean>;
  /** The facts on route and open round for the lifecycle rules. */
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
