import { type Audience, audienceOn, dayInWords, dayOf, deriveReadings, type ReadingRequirement } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import type { DocumentRow } from '../documents/index.ts';
import { subjectOf } from '../documents/index.ts';
import { notifyEach } from '../mailing/index.ts';
import { datedPeople } from '../people/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import type { TypeRow } from '../rules/index.ts';
import * as store from './store.ts';

/** A document gets its type's required reading when it is registered, until somebody names its own readers. */
export const ensureRequirement = async (work: UnitOfWork, documentId: string, type: TypeRow): Promise<void> => {
  if (!type.reading || (await store.findRequirement(work.trx, documentId))) return;
  await store.insertRequirement(work.trx, {
    id: newId(),
    documentId,
    audience: {
      everyone: type.reading.everyone ?? false,
      unitIds: type.reading.unitIds,
      personIds: [],
      exceptPersonIds: [],
    },
    kind: 'read and sign',
    instructions: type.reading.instructions,
    workingDays: type.reading.workingDays,
    newJoinerDays: type.reading.newJoinerDays,
    perChange: type.reading.perChange,
    beforeInForce: false,
    fromType: true,
    from: work.day,
  });
};

export { HAS_SIGNATURE } from './store.ts';

/** How and by when a requirement wants to be read. */
export const termsOf = (row: store.RequirementRow) => ({
  kind: row.kind,
  instructions: row.instructions,
  workingDays: row.working_days,
  newJoinerDays: row.new_joiner_days,
  perChange: row.per_change,
  beforeInForce: row.before_in_force,
  from: row.from_day,
});

export const toRule = (row: store.RequirementRow): ReadingRequirement => ({
  id: row.id,
  audience: row.audience,
  ...termsOf(row),
  ...(row.to_day ? { to: row.to_day } : {}),
});

/** The people of an audience on a day with the day from which each belongs to it. */
export const membersOfAudience = async (trx: Trx, audience: Audience, day: string): Promise<Map<string, string>> => {
  const { people, memberships } = await datedPeople(trx, [...audience.unitIds]);
  return audienceOn(audience, memberships, people, day);
};

/** Tells by mail who newly has to read a revision, and by when. */
const tellReaders = (
  app: App,
  work: UnitOfWork,
  document: DocumentRow,
  revision: RevisionRow,
  instructions: string,
  open: readonly { id: string; personId: string; due: string }[],
) =>
  notifyEach(
    app,
    work,
    open.map((reading) => ({
      personId: reading.personId,
      message: {
        kind: 'reading',
        about: document.id,
        subject: `Please read ${document.number} ${revision.label}`,
        lead: `${revision.title} is in force and you are asked to read and sign it by ${dayInWords(reading.due)}.`,
        ...(instructions ? { quote: instructions } : {}),
        link: { path: `/reading/${reading.id}`, label: 'Read and sign' },
      },
    })),
  );

/**
 * Brings the readings of a revision in line with requirement and memberships: requested, carried over, or closed as
 * not needed. New readers are informed by mail. Does nothing when nothing changed, so that it may run at any time.
 */
export const deriveFor = async (
  app: App,
  work: UnitOfWork,
  document: DocumentRow,
  revision: RevisionRow,
): Promise<number> => {
  const requirement = await store.findRequirement(work.trx, document.id);
  if (!requirement) return 0;
  const readable =
    revision.state === 'in force'
      ? await store.readableSince(work.trx, revision.id)
      : requirement.before_in_force && revision.state === 'scheduled'
        ? work.now
        : undefined;
  if (!readable) return 0;
  const changes = deriveReadings({
    requirement: toRule(requirement),
    changeKind: revision.change_kind,
    readableFrom: dayOf(readable, work.organisation.zone),
    day: work.day,
    memberSince: await membersOfAudience(work.trx, requirement.audience, work.day),
    stored: (await store.listStored(work.trx, { requirementId: requirement.id, revisionId: revision.id })).map(
      (row) => ({ personId: row.person_id, state: row.state }),
    ),
    signedEarlier: new Set(
      await store.listSignedEarlier(work.trx, {
        requirementId: requirement.id,
        documentId: document.id,
        ordinal: revision.ordinal,
      }),
    ),
    calendar: work.organisation.calendar,
  });
  if (changes.length === 0) return 0;
  const assigned = changes.flatMap((change) =>
    change.kind === 'close'
      ? []
      : [
          {
            id: newId(),
            personId: change.personId,
            state: change.kind === 'carry' ? 'carried over' : 'open',
            policy: change.kind === 'carry' ? 'carry over' : change.policy,
            newJoiner: change.kind === 'open' && change.newJoiner,
            due: change.due,
          },
        ],
  );
  const leaving = changes.flatMap((change) => (change.kind === 'close' ? [change.personId] : []));
  if (assigned.length)
    await store.insertReadings(
      work.trx,
      { requirementId: requirement.id, documentId: document.id, revisionId: revision.id, now: work.now },
      assigned,
    );
  if (leaving.length)
    await store.closeReadings(work.trx, {
      documentId: document.id,
      revisionId: revision.id,
      personIds: leaving,
      state: 'not needed',
      now: work.now,
    });
  const open = assigned.filter((reading) => reading.state === 'open');
  work.record({
    kind: 'reading.asked',
    subject: subjectOf(document, revision),
    payload: { asked: open.length, carriedOver: assigned.length - open.length, notNeeded: leaving.length },
  });
  await tellReaders(app, work, document, revision, requirement.instructions, open);
  return changes.length;
};

/** The effect of a later revision, a withdrawal or reopening on open readings. */
export const overtakeReadings = (work: UnitOfWork, documentId: string, revisionId: string) =>
  store.closeReadings(work.trx, { documentId, revisionId, personIds: null, state: 'overtaken', now: work.now });
export const endReadings = (work: UnitOfWork, documentId: string) =>
  store.closeReadings(work.trx, { documentId, revisionId: null, personIds: null, state: 'not needed', now: work.now });
/** Whoever was asked to read a revision, whether they have or not. */
export const readersAsked = store.listAsked;
export const voidReadings = store.voidReadings;
export const hasReaders = async (trx: Trx, documentId: string): Promise<boolean> => {
  const requirement = await store.findRequirement(trx, documentId);
  return Boolean(
    requirement &&
      (requirement.audience.everyone || requirement.audience.unitIds.length || requirement.audience.personIds.length),
  );
};
export const countReaders = store.countReaders;
export const countAudience = async (trx: Trx, documentId: string, day: string): Promise<number> => {
  const requirement = await store.findRequirement(trx, documentId);
  return requirement ? (await membersOfAudience(trx, requirement.audience, day)).size : 0;
};
export const listDutiful = store.listDutiful;
