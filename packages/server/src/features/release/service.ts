import { api, type BodyInOf } from '@kanonos/contract';
import { dayInWords, dayOf, decidePlannedDay, type RevisionState, refusal } from '@kanonos/core';
import { workAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { assertAllowed, RefusalError } from '../../platform/refused.ts';
import type { HandlerOf } from '../access/index.ts';
import { ensureRight, type Viewer } from '../access/index.ts';
import { type Opened, openDocument, refreshLists, runCommand, subjectOf, workOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { deriveFor, voidReadings } from '../reading/index.ts';
import { findRevision, moveRevision, setPlannedDay } from '../revisions/index.ts';
import { checkSigning, freezeRecord, type Signed, sign, voidSignatures } from '../signing/index.ts';
import { comeIntoForce } from './comeIntoForce.ts';
import { preflightOf } from './preflight.ts';

/** Releases now or on a coming day. Without a route (where the type allows it) the release itself is signed. */
export const release = async (
  app: App,
  viewer: Viewer,
  ref: string,
  given: BodyInOf<typeof api.documents.release>,
): Promise<{ state: RevisionState }> => {
  const input = api.documents.release.body.parse(given);
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const before = await openDocument(app.db, viewer, ref, day);
  ensureRight(before.rights, 'release');
  // Whether it is signed is decided under the lock; the given credentials are checked before, whatever the state is now.
  const checked =
    before.work && input.password !== null
      ? await checkSigning(app, viewer, input, input.digest, [before.document, before.work])
      : undefined;
  return runCommand(app, viewer, { document: ref, command: 'release', seen: input.seen }, (work, opened) =>
    releaseIn(app, work, viewer, opened, { on: input.on, checked }),
  );
};

/** The same within an open transaction, under the lock of the document. */
export const releaseIn = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  input: { on: string | null; checked: Awaited<ReturnType<typeof checkSigning>> | undefined },
): Promise<{ state: RevisionState }> => {
  const { document, type } = opened;
  let revision = workOf(opened, 'release');
  if (input.on) assertAllowed(decidePlannedDay(input.on, work.day));
  const blockers = (await preflightOf(app, work.trx, document, revision, type)).filter((line) => line.blocks);
  if (blockers.length)
    throw new RefusalError([
      refusal('preflight_blocked', { count: blockers.length }),
      ...blockers.flatMap((line) => (line.refusal ? [line.refusal] : [])),
    ]);
  let signed: Signed | undefined;
  if (revision.state === 'draft') {
    const record = await freezeRecord(work, document, revision);
    signed = await sign(app, work, viewer, { record, checked: input.checked, meaning: 'released' });
  }
  if (input.on) {
    if (revision.state === 'scheduled') await setPlannedDay(work.trx, revision.id, input.on);
    else await moveRevision(work.trx, revision, 'scheduled', input.on);
    await refreshLists(work.trx, document.id, work.now);
    work.record({
      kind: 'revision.scheduled',
      subject: subjectOf(document, revision),
      payload: { on: input.on, ...signed },
    });
    // Readers who may read before it is in force are asked from now on.
    const scheduled = await findRevision(work.trx, revision.id);
    if (scheduled) await deriveFor(app, work, document, scheduled);
    await notify(app, work, [revision.created_by, document.owner_id], {
      kind: 'release',
      about: document.id,
      subject: `${document.number} ${revision.label} is scheduled for ${dayInWords(input.on)}`,
      lead: `${revision.title} comes into force on ${dayInWords(input.on)}.`,
      link: { path: workAddress(document.number), label: 'Open the document' },
    });
    return { state: 'scheduled' };
  }
  work.record({
    kind: 'revision.released',
    subject: subjectOf(document, revision),
    payload: { now: true, ...signed },
  });
  revision = (await findRevision(work.trx, revision.id)) ?? revision;
  await comeIntoForce(app, work, document, revision, type, work.now);
  return { state: 'in force' };
};

/** Moves the day of a scheduled release, or drops it (back to approved). */
export const moveDay: HandlerOf<typeof api.documents.moveDay> = (app, viewer, ref, input) =>
  runCommand(
    app,
    viewer,
    { document: ref, command: input.on ? 'move day' : 'cancel day', seen: input.seen },
    async (work, opened) => {
      const revision = workOf(opened, 'move day');
      if (input.on) {
        assertAllowed(decidePlannedDay(input.on, work.day));
        await setPlannedDay(work.trx, revision.id, input.on);
        work.record({
          kind: 'revision.day-moved',
          subject: subjectOf(opened.document, revision),
          payload: { before: revision.planned_on, after: input.on, reason: input.reason },
        });
      } else {
        await moveRevision(work.trx, revision, 'approved');
        work.record({
          kind: 'revision.day-cancelled',
          subject: subjectOf(opened.document, revision),
          payload: { before: revision.planned_on, reason: input.reason },
        });
      }
      await refreshLists(work.trx, opened.document.id, work.now);
      return { state: input.on ? 'scheduled' : 'approved' };
    },
  );

/** Takes an approved or scheduled revision back to draft: signatures and readings over it become void, on record. */
export const reopen: HandlerOf<typeof api.documents.reopen, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'reopen', seen: input.seen }, async (work, opened) => {
    const revision = workOf(opened, 'reopen');
    await voidSignatures(work.trx, {
      revisionId: revision.id,
      now: work.now,
      reason: `reopened: ${input.reason}`,
      roundId: null,
    });
    await voidReadings(work.trx, revision.id, work.now);
    await moveRevision(work.trx, revision, 'draft');
    await refreshLists(work.trx, opened.document.id, work.now);
    work.record({
      kind: 'revision.reopened',
      subject: subjectOf(opened.document, revision),
      payload: { from: revision.state, reason: input.reason },
    });
    await notify(app, work, [revision.created_by], {
      kind: 'round ended',
      about: opened.document.id,
      subject: `${opened.document.number} ${revision.label} was reopened`,
      lead: `${viewer.name} returned it to draft.`,
      quote: input.reason,
      link: { path: workAddress(opened.document.number), label: 'Open the document' },
    });
  });
