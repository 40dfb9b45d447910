import type { AnswerOf, api } from '@kanonos/contract';
import {
  dayOf,
  decidePostponement,
  latestPostponement,
  nextReview,
  PLAIN_REVIEW,
  type ReviewOccasion,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { ensureRight, type HandlerOf, type Viewer } from '../access/index.ts';
import {
  type DocumentRow,
  type Opened,
  openDocument,
  runCommand,
  setReviewDay,
  subjectOf,
} from '../documents/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { policyOf, type TypeRow } from '../rules/index.ts';
import {
  checkSigning,
  digestToSign,
  filesToOpen,
  freezeRecord,
  latestRecord,
  nameAssignees,
  sign,
} from '../signing/index.ts';
import * as store from './store.ts';

const CONFIRMED = 'reviewed and confirmed';

/** How often a document is reviewed, in the unit of its type. */
const everyOf = (document: DocumentRow, type: TypeRow): number => document.review_every ?? type.review_every;

const nextOf = (document: DocumentRow, type: TypeRow, occasion: ReviewOccasion): string | null =>
  nextReview(policyOf(type).review, everyOf(document, type), occasion, document.review_on);

/** The day of the review that follows from a revision coming into force; it is put down where it changes. */
export const reviewAfterRelease = async (
  work: UnitOfWork,
  document: DocumentRow,
  type: TypeRow,
  revision: Pick<RevisionRow, 'change_kind'>,
  day: string,
): Promise<void> => {
  const next = nextOf(document, type, { on: 'release', day, changeKind: revision.change_kind });
  if (next !== null && next !== document.review_on) await setReviewDay(work.trx, document.id, next);
};

/** Whoever owns a document reviews it, and whoever releases in its folder. */
const ensureMayReview = ({ document, rights }: Opened, viewer: Viewer): void => {
  if (document.owner_id !== viewer.id) ensureRight(rights, 'release');
};

/** What is in force, and the day on which it is due: the one that was seen, where somebody acts on it. */
const reviewed = ({ document, inForce }: Opened, seenDue?: string): { revision: RevisionRow; due: string } => {
  if (!inForce) throw refused('nothing_in_force');
  if (!document.review_on) throw refused('review_never');
  if (seenDue !== undefined && seenDue !== document.review_on) throw refused('changed_meanwhile');
  return { revision: inForce, due: document.review_on };
};

/** On which days reviews were due before they were postponed for the first time, from the days on which they are due now. */
const firstDueDays = async (db: Db | Trx, due: ReadonlyMap<string, string>): Promise<Map<string, string>> => {
  const postponed = await store.listFirstDue(db, [...due.keys()]);
  const before = new Map(postponed.map((row) => [row.document_id, row.first_due]));
  return new Map([...due].map(([id, day]) => [id, [day, before.get(id) ?? day].sort()[0] as string]));
};
const firstDueOf = async (db: Db | Trx, documentId: string, due: string): Promise<string> =>
  (await firstDueDays(db, new Map([[documentId, due]]))).get(documentId) ?? due;

const startOf = async (db: Db | Trx, documentId: string): Promise<{ inForceSince: Date; since: Date }> => {
  const start = await store.findStart(db, documentId);
  if (!start) throw refused('nothing_in_force');
  return { inForceSince: start.in_force_since, since: start.confirmed_at ?? start.in_force_since };
};

/** What a review has to go by: when it is due, how the document was used since the last one, what became of the earlier ones. */
export const reviewOf = async (app: App, viewer: Viewer, ref: string): Promise<AnswerOf<typeof api.reviews.get>> => {
  const organisation = await app.organisation();
  const { zone } = organisation;
  const today = dayOf(app.clock(), zone);
  const opened = await openDocument(app.db, viewer, ref, today);
  ensureMayReview(opened, viewer);
  const { document, type } = opened;
  const { revision, due } = reviewed(opened);
  const { inForceSince, since } = await startOf(app.db, document.id);
  const [reviews, firstDue, use, record] = await Promise.all([
    store.listReviewsOf(app.db, document.id),
    firstDueOf(app.db, document.id, due),
    store.countUse(app.db, { documentId: document.id, since }),
    latestRecord(app.db, revision.id),
  ]);
  const { review } = policyOf(type);
  const latest = latestPostponement(firstDue, review);
  return {
    label: revision.label,
    due,
    nextIfConfirmed: nextOf(document, type, {
      on: 'confirmation',
      day: today,
      releasedOn: dayOf(inForceSince, zone),
    }),
    latestPostponement: latest > due && latest > today ? latest : null,
    use: {
      since: dayOf(since, zone),
      openings: use?.openings ?? 0,
      readers: use?.readers ?? 0,
      readingsSigned: use?.readings ?? 0,
      comments: use?.comments ?? 0,
      openComments: use?.open_comments ?? 0,
      changeRequests: use?.requests ?? 0,
      citedBy: use?.cited_by ?? 0,
    },
    earlier: reviews.map((one) => ({
      at: one.at.toISOString(),
      by: { id: one.person_id, name: one.person },
      outcome: one.outcome,
      due: one.due_on,
      next: one.next_on,
      comment: one.comment,
    })),
    signing: {
      digest: record?.digest ?? (await digestToSign(app.db, document, revision)),
      asksForName: nameAssignees(app, viewer, organisation.signingIdleMinutes),
      files: await filesToOpen(app.db, viewer, document.id, revision.latest_version_id),
    },
  };
};

/** Confirms a document as it is, with a signature over what is in force, and sets the day of its next review. */
export const confirmReview: HandlerOf<typeof api.reviews.confirm> = async (app, viewer, ref, input) => {
  const { zone } = await app.organisation();
  const before = await openDocument(app.db, viewer, ref, dayOf(app.clock(), zone));
  ensureMayReview(before, viewer);
  const checked = await checkSigning(app, viewer, { name: input.name, password: input.password }, input.digest, [
    before.document,
    before.inForce,
  ]);
  return runCommand(app, viewer, { document: ref, command: 'review', seen: input.seen }, async (work, opened) => {
    const { document, type } = opened;
    const { revision, due } = reviewed(opened, input.due);
    const { inForceSince } = await startOf(work.trx, document.id);
    // What was taken over from an older register has no record of its own before it is signed for the first time.
    const record = (await latestRecord(work.trx, revision.id)) ?? (await freezeRecord(work, document, revision));
    const signed = await sign(app, work, viewer, { record, checked, meaning: CONFIRMED });
    const next = nextOf(document, type, {
      on: 'confirmation',
      day: dayOf(work.now, zone),
      releasedOn: dayOf(inForceSince, zone),
    });
    await setReviewDay(work.trx, document.id, next);
    await put(work, viewer, opened, { outcome: 'confirmed', due, next, comment: input.comment });
    work.record({
      kind: 'review.confirmed',
      subject: subjectOf(document, revision),
      payload: { ...signed, due, next, comment: input.comment },
    });
    return { next };
  });
};

const put = (
  work: UnitOfWork,
  viewer: Viewer,
  { document, inForce }: Opened,
  review: { outcome: store.ReviewRow['outcome']; due: string; next: string | null; comment: string },
) =>
  store.insertReview(work.trx, {
    id: newId(),
    documentId: document.id,
    revisionId: inForce?.id ?? '',
    personId: viewer.id,
    now: work.now,
    ...review,
  });

/** Says that it needs a change, or is to be withdrawn. It stays due until a revision comes into force or it is withdrawn. */
export const answerReview: HandlerOf<typeof api.reviews.answer, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'review', seen: input.seen }, async (work, opened) => {
    const { revision, due } = reviewed(opened, input.due);
    const { outcome, comment } = input;
    await put(work, viewer, opened, { outcome, due, next: due, comment });
    work.record({
      kind: 'review.answered',
      subject: subjectOf(opened.document, revision),
      payload: { outcome, due, comment },
    });
  });

/** Postpones a review, by so much in all as the type allows. */
export const postponeReview: HandlerOf<typeof api.reviews.postpone, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'postpone review', seen: input.seen }, (work, opened) =>
    postponeIn(work, viewer, opened, input),
  );

const postponeIn = async (
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  input: { due: string; to: string; reason: string },
): Promise<void> => {
  const { document, type } = opened;
  const { revision, due } = reviewed(opened, input.due);
  const firstDue = await firstDueOf(work.trx, document.id, due);
  const today = dayOf(work.now, work.organisation.zone);
  assertAllowed(decidePostponement({ to: input.to, due, firstDue, today }, policyOf(type).review));
  await setReviewDay(work.trx, document.id, input.to);
  await put(work, viewer, opened, { outcome: 'postponed', due, next: input.to, comment: input.reason });
  work.record({
    kind: 'review.postponed',
    subject: subjectOf(document, revision),
    payload: { from: due, to: input.to, reason: input.reason },
  });
};

/** Moves a review to another day: a later one within the limit of its type, or an earlier one that is still to come. */
export const moveReview = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: { due: string; to: string; reason: string },
): Promise<void> =>
  runCommand(app, viewer, { document: ref, command: 'postpone review' }, async (work, opened) => {
    if (input.to >= input.due) return postponeIn(work, viewer, opened, input);
    const { revision, due } = reviewed(opened, input.due);
    const today = dayOf(work.now, work.organisation.zone);
    if (input.to <= today) throw refused('day_not_after_today', { day: input.to, today });
    await setReviewDay(work.trx, opened.document.id, input.to);
    await put(work, viewer, opened, { outcome: 'brought forward', due, next: input.to, comment: input.reason });
    work.record({
      kind: 'review.brought-forward',
      subject: subjectOf(opened.document, revision),
      payload: { from: due, to: input.to, reason: input.reason },
    });
  });

/** The last day to which the review of each of some documents can be moved. */
export const latestReviewDays = async (app: App, due: ReadonlyMap<string, string>): Promise<Map<string, string>> => {
  const ids = [...due.keys()];
  const [firstDue, most] = await Promise.all([firstDueDays(app.db, due), store.listMostPostponed(app.db, ids)]);
  return new Map(
    most.map((row) => {
      const now = due.get(row.id) ?? '';
      const latest = latestPostponement(firstDue.get(row.id) ?? now, {
        mostDaysPostponed: row.most ?? PLAIN_REVIEW.mostDaysPostponed,
      });
      // What is due later than that already stays where it is.
      return [row.id, [now, latest].sort()[1] as string];
    }),
  );
};
