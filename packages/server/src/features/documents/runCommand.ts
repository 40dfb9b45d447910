import { type Command, dayOf, decideCommand, sawThisState, type TaggedState } from '@kanonos/core';
import { type App, SYSTEM_CLOCK, type UnitOfWork } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { lifecycle } from './lifecycle.ts';
import { loadForUpdate, type Opened, situationOf } from './service.ts';
import { findDocument, lockDocument } from './store.ts';

/** A command on a document as a person gives it. */
export type Wanted = {
  /** Its id or number. */
  document: string;
  /** The rule of the core that must allow it; left out where the work decides by a rule of its own. */
  command?: Command;
  /** The tag of the state that the person saw (`stateTag` of the core); left out, it depends on none. */
  seen?: string;
  /** Takes the locks that precede the document's. */
  first?: (trx: Trx) => Promise<unknown>;
};

/**
 * The one entry for commands on a document. Due changes are applied first, in a transaction of their own: also a
 * command that is then refused leaves the document as time has made it. Then, in one transaction: the document's row is
 * locked, the rule is checked, the state must be the one seen, and the work is done with its events.
 *
 * @throws RefusalError with every reason of the rule, or `changed_meanwhile`
 */
export const runCommand = async <T>(
  app: App,
  viewer: Viewer,
  wanted: Wanted,
  work: (work: UnitOfWork, opened: Opened) => Promise<T>,
): Promise<T> => {
  await applyWhatIsDue(app, wanted.document);
  return app.command(actorOf(viewer), async (unit) => {
    await wanted.first?.(unit.trx);
    return work(unit, await openForCommand(app, unit, viewer, wanted));
  });
};

/** The same within an open transaction, for operations of two commands. */
export const openForCommand = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  { document, command, seen }: Wanted,
): Promise<Opened> => {
  const opened = await loadForUpdate(work, viewer, document);
  if (command) await assertCommand(app, work, viewer, opened, command);
  // After the rule, because its reasons explain more than a changed state.
  if (seen !== undefined && !sawThisState(seen, taggedState(opened))) throw refused('changed_meanwhile');
  return opened;
};

/** Refuses with the reasons of the core's rule, from the rows under the lock. */
export const assertCommand = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  command: Command,
): Promise<void> => {
  const route = await lifecycle().routeSituation(app, work.trx, opened, viewer, work.day);
  assertAllowed(
    decideCommand(command, await situationOf(work.trx, opened, viewer, route, work.organisation.ownStates)),
  );
};

/** The revision in work of a document that a command needs one of. */
export const workOf = (opened: Opened, command: string): RevisionRow => {
  if (!opened.work) throw refused('wrong_state', { command, state: 'none in work' });
  return opened.work;
};

/** The facts of a document that make its tag. */
export const taggedState = ({ document, work, inForce, checkout }: Opened): TaggedState => ({
  number: document.number,
  ...(work ? { work: { id: work.id, rowVersion: work.row_version } } : {}),
  ...(inForce ? { inForceId: inForce.id } : {}),
  ...(document.hold ? { holdSince: document.hold.since } : {}),
  ...(document.withdraw_on ? { withdrawOn: document.withdraw_on } : {}),
  ...(checkout ? { checkoutId: checkout.id } : {}),
  removed: document.removed_at !== null,
});

/** Does what time has to do with a document, in a transaction of its own. */
export const applyWhatIsDue = async (app: App, ref: string): Promise<void> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const document = await findDocument(app.db, ref);
  if (!document || !(await lifecycle().isDue(app.db, document.id, day))) return;
  await app.command(SYSTEM_CLOCK, async (work) => {
    await lockDocument(work.trx, document.id);
    await lifecycle().applyDue(app, work, document.id);
  });
};
