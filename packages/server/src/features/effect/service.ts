import {
  addMonths,
  dayInWords,
  dayOf,
  firstInstantOf,
  missingFields,
  type PreflightLine,
  preflight,
} from '@kanonos/core';
import { type App, SYSTEM_CLOCK, type UnitOfWork } from '../../platform/app.ts';
import type { Finding } from '../../platform/content/integrity.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import type { Viewer } from '../access/service.ts';
import { openBlocking } from '../comments/service.ts';
import {
  allMetadata,
  type DocumentRow,
  filesOf,
  findCheckout,
  findDocument,
  findRevision,
  lockDocument,
  moveRevision,
  type RevisionRow,
  refreshLists,
  subjectOf,
  write,
} from '../documents/service.ts';
import { notify } from '../mailing/service.ts';
import { deriveFor, endReadings, hasReaders, listDutiful, overtakeReadings } from '../reading/duties.ts';
import { getType, type TypeRow } from '../rules/service.ts';
import { actorOf } from '../session/service.ts';
import { latestRecord, recordTextOf, signaturesOf } from '../signing/service.ts';
import { eachOnItsOwn } from '../system/failedWork.ts';
import * as store from './store.ts';

/** Every blocker of the release of a revision, computed from the rows and the bytes in the store. */
export const preflightOf = async (
  app: App,
  trx: Trx,
  document: DocumentRow,
  revision: RevisionRow,
  type: TypeRow,
): Promise<PreflightLine[]> => {
  const listed = revision.latest_version_id ? await filesOf(trx, [revision.latest_version_id]) : [];
  // What is released is read again, byte by byte: nothing that was changed in the store comes into force.
  const findings = new Map<string, Finding>();
  for (const file of listed) findings.set(file.sha256, await app.content.verify(file.sha256, 'release'));
  const found = (finding: Finding) => listed.filter((file) => findings.get(file.sha256) === finding);
  const files = listed.map((file) => ({ ...file, check_failed: findings.get(file.sha256) !== 'intact' }));
  const signatures = (await signaturesOf(trx, document, revision, files)).filter(
    (signature) => signature.state !== 'void',
  );
  const record = await latestRecord(trx, revision.id);
  const checkout = await findCheckout(trx, document.id);
  const walked = revision.state !== 'draft';
  return preflight({
    signatures: signatures.map((signature) => ({
      who: signature.printedName,
      meaning: signature.meaning,
      intact: signature.state === 'intact',
    })),
    needsApprovers: walked ? await store.countApprovers(trx, revision.id) : 0,
    ...(checkout ? { checkout: { personName: checkout.person_name, since: checkout.at.toISOString() } } : {}),
    missingFields: missingFields(type.fields, allMetadata(document, revision)),
    hasOriginal: files.some((file) => file.role === 'original'),
    contentMissing: found('missing').map((file) => file.name),
    contentAltered: found('altered').map((file) => ({ name: file.name, hash: file.sha256.slice(0, 12) })),
    blockingComments: await openBlocking(trx, revision.id),
    readersNeeded: type.readers_needed,
    readersDefined: await hasReaders(trx, document.id),
    recordUnchanged: !walked || (record !== undefined && record.text === recordTextOf(document, revision, files)),
  });
};

/**
 * Brings a revision into force from an instant on: the former one is superseded in the same instant and transaction, open
 * readings of it are overtaken, the new ones follow from requirement and memberships.
 */
export const comeIntoForce = async (
  app: App,
  work: UnitOfWork,
  document: DocumentRow,
  revision: RevisionRow,
  type: TypeRow,
  wanted: Date,
): Promise<void> => {
  // Two acts within one millisecond still follow one another.
  const free = await store.findFreeFrom(work.trx, document.id);
  const from = free && free > wanted ? free : wanted;
  const former = await store.findInForce(work.trx, document.id);
  if (former) {
    await write.endPeriod(work.trx, document.id, from);
    await moveRevision(work.trx, { id: former.id, state: 'in force' }, 'superseded');
    await overtakeReadings(work, document.id, former.id);
  }
  await moveRevision(work.trx, revision, 'in force');
  await write.beginPeriod(work.trx, {
    id: newId(),
    documentId: document.id,
    revisionId: revision.id,
    label: revision.label,
    from,
  });
  const day = dayOf(from, work.organisation.zone);
  const months = document.review_months ?? type.review_months;
  if (months > 0) await write.setReviewDay(work.trx, document.id, addMonths(day, months));
  await refreshLists(work.trx, document.id, work.now);
  work.record({
    kind: 'revision.in-force',
    subject: subjectOf(document, revision),
    payload: { from: from.toISOString(), supersedes: former?.label ?? null },
  });
  if (former)
    work.record({
      kind: 'revision.superseded',
      subject: subjectOf(document, former),
      payload: { at: from.toISOString(), by: revision.label },
    });
  await notify(app, work, [revision.created_by, document.owner_id], {
    kind: 'release',
    about: document.id,
    subject: `${document.number} ${revision.label} is in force`,
    lead: `${revision.title} has been in force since ${dayInWords(day)}${former ? ` and supersedes ${former.label}` : ''}.`,
    link: { path: `/d/${encodeURIComponent(document.number)}`, label: 'Open the document' },
  });
  const fresh = await findRevision(work.trx, revision.id);
  if (fresh) await deriveFor(app, work, document, fresh);
};

/** Withdraws what is in force from an instant on; open readings are no longer needed. */
export const withdrawNow = async (
  work: UnitOfWork,
  document: DocumentRow,
  revision: RevisionRow,
  reason: string,
  at: Date,
): Promise<void> => {
  await write.endPeriod(work.trx, document.id, at);
  await moveRevision(work.trx, { id: revision.id, state: 'in force' }, 'withdrawn');
  await write.setWithdrawal(work.trx, document.id, null, null);
  await write.setReviewDay(work.trx, document.id, null);
  await endReadings(work, document.id);
  await refreshLists(work.trx, document.id, work.now);
  work.record({
    kind: 'revision.withdrawn',
    subject: subjectOf(document, revision),
    payload: { at: at.toISOString(), reason },
  });
};

/**
 * Settles what is due for a document, under its lock: a scheduled release whose day has begun comes into force from that
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
    if ((await write.setBlocked(work.trx, revision.id, work.now)) === 0) return false;
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

/** The same transaction, with the clock as the one who acts. */
const asClock = (work: UnitOfWork): UnitOfWork => ({
  ...work,
  record: (event) => work.record({ ...event, actor: SYSTEM_CLOCK.signInName }),
});

/**
 * Acts on a document after settling what is due for it, in a transaction of its own: also a command that is then refused
 * leaves the document as time has made it.
 */
export const changeInWork = async <T>(
  app: App,
  viewer: Viewer,
  ref: string,
  work: (work: UnitOfWork) => Promise<T>,
): Promise<T> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  const document = await findDocument(app.db, ref);
  if (document && (await store.findDue(app.db, document.id, day))) {
    await app.command(SYSTEM_CLOCK, async (applying) => {
      await lockDocument(applying.trx, document.id);
      await applyDue(app, applying, document.id);
    });
  }
  return app.command(actorOf(viewer), work);
};

/**
 * The clock's job: everything that is due, one document per transaction, then readings of joiners and leavers. A document that fails
 * keeps no other waiting.
 */
export const runDueWork = async (app: App): Promise<{ settled: number; readings: number }> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  let settled = 0;
  await eachOnItsOwn(
    app,
    'scheduled change of a document',
    await store.listDue(app.db, day),
    ({ id, number }) => ({ subject: id, label: number, documentId: id }),
    async ({ id }) => {
      const did = await app.command(SYSTEM_CLOCK, async (work) =>
        (await lockDocument(work.trx, id)) ? applyDue(app, work, id) : false,
      );
      if (did) settled++;
    },
  );
  let readings = 0;
  await eachOnItsOwn(
    app,
    'required reading',
    await listDutiful(app.db),
    ({ document_id, number }) => ({ subject: document_id, label: number, documentId: document_id }),
    async ({ document_id, revision_id }) => {
      if (!(await store.readersMayHaveChanged(app.db, document_id, revision_id, day))) return;
      readings += await app.command(SYSTEM_CLOCK, async (work) => {
        await lockDocument(work.trx, document_id);
        const [document, revision] = [
          await findDocument(work.trx, document_id),
          await findRevision(work.trx, revision_id),
        ];
        return document && revision ? deriveFor(app, work, document, revision) : 0;
      });
    },
  );
  return { settled, readings };
};

export const inForceOf = store.findInForce;
