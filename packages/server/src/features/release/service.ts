import { type AnswerOf, api, type BodyInOf, type BodyOf } from '@kanonos/contract';
import {
  addDays,
  type Command,
  canFollow,
  dayInWords,
  dayOf,
  decideCommand,
  decidePlannedDay,
  nextLabel,
  type RevisionState,
  refusal,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import { ensureRight, type Viewer } from '../access/service.ts';
import { filesAfter } from '../documents/nextFiles.ts';
import {
  addVersion,
  filesOf,
  findDocument,
  findRevision,
  lastLabelOf,
  loadForUpdate,
  moveRevision,
  type Opened,
  openDocument,
  type RevisionRow,
  refreshLists,
  situationOf,
  subjectOf,
  write,
} from '../documents/service.ts';
import { changeInWork, comeIntoForce, preflightOf, withdrawNow } from '../effect/service.ts';
import { notify } from '../mailing/service.ts';
import { countAudience, deriveFor, voidReadings } from '../reading/duties.ts';
import { routeSituationOf } from '../rounds/service.ts';
import {
  checkSigning,
  digestToSign,
  filesToOpen,
  freezeRecord,
  latestRecord,
  nameAssignees,
  type Signed,
  sign,
  voidSignatures,
} from '../signing/service.ts';

const prepare = async (app: App, work: UnitOfWork, viewer: Viewer, ref: string, command: Command): Promise<Opened> => {
  const opened = await loadForUpdate(work, viewer, ref);
  assertAllowed(
    decideCommand(
      command,
      await situationOf(work.trx, opened, viewer, await routeSituationOf(app, work.trx, opened, viewer, work.day)),
    ),
  );
  return opened;
};

const inWork = (opened: Opened, command: Command): RevisionRow => {
  if (!opened.work) throw refused('wrong_state', { command, state: 'none in work' });
  return opened.work;
};

/** The preflight of the revision in work, with what its release will do. */
export const preflightFor = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.documents.preflight>> => {
  const organisation = await app.organisation();
  const day = dayOf(app.clock(), organisation.zone);
  const opened = await openDocument(app.db, viewer, ref, day);
  ensureRight(opened.rights, 'release');
  const revision = inWork(opened, 'release');
  return app.db.transaction(async (trx) => ({
    label: revision.label,
    lines: await preflightOf(app, trx, opened.document, revision, opened.type),
    supersedes: opened.inForce?.label ?? null,
    readers: await countAudience(trx, opened.document.id, day),
    earliestDay: addDays(day, 1),
    signing: await signingOf(app, trx, viewer, opened, revision, organisation.signingIdleMinutes),
  }));
};

/** What the release itself signs, where no route does: which bytes, and which of its files the viewer has opened. */
const signingOf = async (
  app: App,
  trx: Trx,
  viewer: Viewer,
  { document, type }: Opened,
  revision: RevisionRow,
  idleMinutes: number,
) => {
  if (revision.state !== 'draft' || !type.release_without_route) return null;
  return {
    digest: await digestToSign(trx, document, revision),
    asksForName: nameAssignees(app, viewer, idleMinutes),
    files: await filesToOpen(trx, viewer, document.id, revision.latest_version_id),
  };
};

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
  // Whether it is signed is decided under the lock; what was given for it is checked before, whatever the state is now.
  const checked =
    before.work && input.password !== null
      ? await checkSigning(app, viewer, input, input.digest, [before.document, before.work])
      : undefined;
  return changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'release');
    const { document, type } = opened;
    let revision = inWork(opened, 'release');
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
      signed = await sign(app, work, viewer, { record, checked, meaning: 'released' });
    }
    if (input.on) {
      if (revision.state === 'scheduled') await write.setPlannedDay(work.trx, revision.id, input.on);
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
        link: { path: `/d/${encodeURIComponent(document.number)}`, label: 'Open the document' },
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
  });
};

/** Moves the day of a scheduled release, or drops it (back to approved). */
export const moveDay = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<typeof api.documents.moveDay>,
): Promise<{ state: RevisionState }> =>
  changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, input.on ? 'move day' : 'cancel day');
    const revision = inWork(opened, 'move day');
    if (input.on) {
      assertAllowed(decidePlannedDay(input.on, work.day));
      await write.setPlannedDay(work.trx, revision.id, input.on);
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
  });

/** Takes an approved or scheduled revision back to draft: signatures and readings over it become void, on record. */
export const reopen = (app: App, viewer: Viewer, ref: string, reason: string): Promise<void> =>
  changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'reopen');
    const revision = inWork(opened, 'reopen');
    await voidSignatures(work.trx, {
      revisionId: revision.id,
      now: work.now,
      reason: `reopened: ${reason}`,
      roundId: null,
    });
    await voidReadings(work.trx, revision.id, work.now);
    await moveRevision(work.trx, revision, 'draft');
    await refreshLists(work.trx, opened.document.id, work.now);
    work.record({
      kind: 'revision.reopened',
      subject: subjectOf(opened.document, revision),
      payload: { from: revision.state, reason },
    });
    await notify(app, work, [revision.created_by], {
      kind: 'round ended',
      about: opened.document.id,
      subject: `${opened.document.number} ${revision.label} was reopened`,
      lead: `${viewer.name} returned it to draft.`,
      quote: reason,
      link: { path: `/d/${encodeURIComponent(opened.document.number)}`, label: 'Open the document' },
    });
  });

/** Begins the next revision from what is in force (else the newest released or abandoned), or from an outside file. */
export const revise = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<typeof api.documents.revise>,
): Promise<{ label: string }> =>
  changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'revise');
    const { document, type, revisions } = opened;
    const [newest] = revisions;
    const source =
      opened.inForce ?? revisions.find((r) => r.state === 'superseded' || r.state === 'withdrawn') ?? newest;
    if (!source || !newest) throw refused('nothing_to_revise');
    const label = nextLabelFor(type.scheme, lastLabelOf(revisions), input, revisions);
    const before = source.latest_version_id ? await filesOf(work.trx, [source.latest_version_id]) : [];
    const files = await filesAfter(app, work, viewer, before, { uploadId: input.uploadId });
    const id = newId();
    await write.insertRevision(work.trx, {
      id,
      documentId: document.id,
      ordinal: newest.ordinal + 1,
      label,
      changeKind: input.changeKind,
      reason: input.reason,
      summary: input.summary,
      title: source.title,
      metadata: source.metadata,
      now: work.now,
      by: viewer.id,
    });
    await addVersion(
      work,
      { id, version_count: 0 },
      {
        files,
        note: input.uploadId ? 'Started from a new file' : `Started from ${source.label}`,
        title: source.title,
        summary: input.summary,
        metadata: source.metadata,
      },
    );
    await refreshLists(work.trx, document.id, work.now);
    work.record({
      kind: 'revision.revised',
      subject: subjectOf(document, { id, label }),
      payload: {
        from: source.label,
        changeKind: input.changeKind,
        reason: input.reason,
        outsideFile: input.uploadId !== null,
      },
    });
    return { label };
  });

const nextLabelFor = (
  scheme: Opened['type']['scheme'],
  last: string,
  input: BodyOf<typeof api.documents.revise>,
  revisions: RevisionRow[],
): string => {
  if (scheme.kind === 'own') {
    if (!input.label) throw refused('label_given_by_supplier');
    if (!canFollow(scheme, last, input.label) || revisions.some((r) => r.label === input.label))
      throw refused('label_not_after_last', { label: input.label, last });
    return input.label;
  }
  const next = nextLabel(scheme, last, input.changeKind, input.toStage);
  if (!next.ok) throw new RefusalError(next.refusals);
  return next.value;
};

export const abandon = (app: App, viewer: Viewer, ref: string, reason: string): Promise<void> =>
  changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'abandon');
    const revision = inWork(opened, 'abandon');
    if (opened.checkout) await write.endCheckout(work.trx, opened.checkout.id, work.now, 'abandoned');
    await moveRevision(work.trx, revision, 'abandoned');
    await refreshLists(work.trx, opened.document.id, work.now);
    work.record({ kind: 'revision.abandoned', subject: subjectOf(opened.document, revision), payload: { reason } });
  });

/** Withdraws what is in force, now or at the beginning of a coming day. */
export const withdraw = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<typeof api.documents.withdraw>,
): Promise<void> =>
  changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'withdraw');
    if (!opened.inForce) throw refused('nothing_in_force');
    if (input.on) {
      assertAllowed(decidePlannedDay(input.on, work.day));
      await write.setWithdrawal(work.trx, opened.document.id, input.on, input.reason);
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

export const cancelWithdrawal = (app: App, viewer: Viewer, ref: string, reason: string): Promise<void> =>
  changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'cancel withdrawal');
    await write.setWithdrawal(work.trx, opened.document.id, null, null);
    work.record({
      kind: 'withdrawal.cancelled',
      subject: subjectOf(opened.document, opened.inForce),
      payload: { reason },
    });
  });

/** Puts the withdrawn revision in force again, signed with *release*: a new period begins. */
export const reinstate = async (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<typeof api.documents.reinstate>,
): Promise<void> => {
  const before = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  ensureRight(before.rights, 'release');
  const withdrawn = before.revisions.find((r) => r.state === 'withdrawn');
  if (!withdrawn) throw refused('nothing_withdrawn');
  const checked = await checkSigning(app, viewer, input, input.digest, [before.document, withdrawn]);
  await changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'reinstate');
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

/** What is signed when a withdrawn revision is reinstated. */
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
