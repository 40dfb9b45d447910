import { dayInWords, firstInstantOf } from '@kanonos/core';
import { type App, SYSTEM_CLOCK, type UnitOfWork } from '../../platform/app.ts';
import { findDocument, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { findRevision, setBlocked } from '../revisions/index.ts';
import { getType } from '../rules/index.ts';
import { comeIntoForce } from './comeIntoForce.ts';
import { preflightOf } from './preflight.ts';
import * as store from './store.ts';
import { withdrawNow } from './withdraw.ts';

/**
 * Applies due changes of a document, under its lock: a scheduled release whose day has begun comes into force from that
 * day's first instant, also after a standstill, or is held when the preflight finds something; a planned withdrawal
 * happens. Every command settles first, so nobody acts on a state that time has passed.
 */
export const applyDue = async (app: App, work: UnitOfWork, documentId: string): Promise<boolean> => {
  const due = await store.findDue(work.trx, documentId, work.day);
  if (!due) return false;
  const document = await findDocument(work.trx, documentId);
  if (!document) return false;
  const type = await getType(work.trx, document.type_id);
  if (due.withdraw_on && due.withdraw_on <= work.day) {
    const inForce = await store.findInForce(work.trx, documentId);
    const revision = inForce && (await findRevision(work.trx, inForce.id));
    const at = firstInstantOf(due.withdraw_on, work.organisation.zone);
    if (revision)
      await withdrawNow(
        asClock(work),
        document,
        revision,
        document.withdraw_reason ?? '',
        laterOf(at, revision.effective_from),
      );
  }
  const revision = due.revision_id ? await findRevision(work.trx, due.revision_id) : undefined;
  if (!revision?.planned_on || revision.planned_on > work.day) return true;
  const blockers = (await preflightOf(app, work.trx, document, revision, type)).filter((line) => line.blocks);
  if (blockers.length > 0) {
    if ((await setBlocked(work.trx, revision.id, work.now)) === 0) return false;
    asClock(work).record({
      kind: 'revision.release-blocked',
      subject: subjectOf(document, revision),
      payload: { planned: revision.planned_on, blockers: blockers.flatMap((line) => line.refusal ?? []) },
    });
    await notify(app, work, await store.listReleasers(work.trx, documentId, work.day), {
      kind: 'release',
      about: documentId,
      subject: `Blocked: ${document.number} ${revision.label} did not come into force`,
      lead: `It was scheduled for ${dayInWords(revision.planned_on)} and the preflight found ${blockers.length === 1 ? 'one blocker' : `${blockers.length} blockers`}. It comes into force when they are cleared.`,
      link: { path: `/d/${encodeURIComponent(document.number)}/release`, label: 'Open the preflight' },
    });
    return true;
  }
  // A held one comes into force when it is cleared, not back on its planned day.
  const from = revision.blocked_since ? work.now : firstInstantOf(revision.planned_on, work.organisation.zone);
  await comeIntoForce(app, asClock(work), document, revision, type, from);
  return true;
};

const laterOf = (at: Date, from: Date | null) =>
  from && from.getTime() >= at.getTime() ? new Date(from.getTime() + 1) : at;

/** The same transaction, with the clock as the actor. */
const asClock = (work: UnitOfWork): UnitOfWork => ({
  ...work,
  record: (event) => work.record({ ...event, actor: SYSTEM_CLOCK.signInName }),
});
