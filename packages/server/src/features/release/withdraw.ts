import type { AnswerOf, api } from '@kanonos/contract';
import { dayOf, decidePlannedDay } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { HandlerOf } from '../access/index.ts';
import { ensureRight, type Viewer } from '../access/index.ts';
import {
  type DocumentRow,
  findDocument,
  openDocument,
  refreshLists,
  runCommand,
  setReviewDay,
  setWithdrawal,
  subjectOf,
} from '../documents/index.ts';
import { endReadings } from '../reading/index.ts';
import { endPeriod, moveRevision, type RevisionRow } from '../revisions/index.ts';
import { checkSigning, filesToOpen, latestRecord, nameAssignees, sign } from '../signing/index.ts';
import { comeIntoForce } from './comeIntoForce.ts';
import { endHold } from './hold.ts';

/** Withdraws the revision in force from an instant on; open readings are no longer needed. */
export const withdrawNow = async (
  work: UnitOfWork,
  document: DocumentRow,
  revision: RevisionRow,
  reason: string,
  at: Date,
): Promise<void> => {
  await endPeriod(work.trx, document.id, at);
  await moveRevision(work.trx, { id: revision.id, state: 'in force' }, 'withdrawn');
  await setWithdrawal(work.trx, document.id, null, null);
  await setReviewDay(work.trx, document.id, null);
  await endReadings(work, document.id);
  await endHold(work, document, revision, 'withdrawn');
  await refreshLists(work.trx, document.id, work.now);
  work.record({
    kind: 'revision.withdrawn',
    subject: subjectOf(document, revision),
    payload: { at: at.toISOString(), reason },
  });
};

/** Withdraws the revision in force, now or at the beginning of a coming day. */
export const withdraw: HandlerOf<typeof api.documents.withdraw, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'withdraw', seen: input.seen }, async (work, opened) => {
    if (!opened.inForce) throw refused('nothing_in_force');
    if (input.on) {
      assertAllowed(decidePlannedDay(input.on, work.day));
      await setWithdrawal(work.trx, opened.document.id, input.on, input.reason);
      work.record({
        kind: 'withdrawal.planned',
        subject: subjectOf(opened.document, opened.inForce),
        payload: { on: input.on, reason: input.reason },
      });
      return;
    }
    const from = opened.inForce.effective_from;
    const at = from && from >= work.now ? new Date(from.getTime() + 1) : work.now;
    await withdrawNow(work, opened.document, opened.inForce, input.reason, at);
  });

export const cancelWithdrawal: HandlerOf<typeof api.documents.cancelWithdrawal, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'cancel withdrawal', seen: input.seen }, async (work, opened) => {
    await setWithdrawal(work.trx, opened.document.id, null, null);
    work.record({
      kind: 'withdrawal.cancelled',
      subject: subjectOf(opened.document, opened.inForce),
      payload: { reason: input.reason },
    });
  });

/** Puts the withdrawn revision in force again, signed with *release*: a new period begins. */
export const reinstate: HandlerOf<typeof api.documents.reinstate, void> = async (app, viewer, ref, input) => {
  const before = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  ensureRight(before.rights, 'release');
  const withdrawn = before.revisions.find((r) => r.state === 'withdrawn');
  if (!withdrawn) throw refused('nothing_withdrawn');
  const checked = await checkSigning(app, viewer, input, input.digest, [before.document, withdrawn]);
  await runCommand(app, viewer, { document: ref, command: 'reinstate', seen: input.seen }, async (work, opened) => {
    const revision = opened.revisions.find((r) => r.state === 'withdrawn');
    const document = await findDocument(work.trx, opened.document.id);
    const record = revision && (await latestRecord(work.trx, revision.id));
    if (!revision || !document || !record) throw refused('nothing_withdrawn');
    const signed = await sign(app, work, viewer, { record, checked, meaning: 'reinstated' });
    work.record({
      kind: 'revision.reinstated',
      subject: subjectOf(document, revision),
      payload: { reason: input.reason, ...signed },
    });
    await comeIntoForce(app, work, document, revision, opened.type, work.now);
  });
};

/** The signing record for reinstating a withdrawn revision. */
export const reinstatementFor = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.documents.reinstatement>> => {
  const organisation = await app.organisation();
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), organisation.zone));
  ensureRight(opened.rights, 'release');
  const revision = opened.revisions.find((r) => r.state === 'withdrawn');
  const record = revision && (await latestRecord(app.db, revision.id));
  if (!revision || !record) throw refused('nothing_withdrawn');
  return {
    label: revision.label,
    signing: {
      digest: record.digest,
      asksForName: nameAssignees(app, viewer, organisation.signingIdleMinutes),
      files: await filesToOpen(app.db, viewer, opened.document.id, revision.latest_version_id),
    },
  };
};
