import { dayInWords, dayOf } from '@kanonos/core';
import { documentAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { type DocumentRow, refreshLists, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { deriveFor, overtakeReadings } from '../reading/index.ts';
import { reviewAfterRelease } from '../reviews/index.ts';
import { beginPeriod, endPeriod, findRevision, moveRevision, type RevisionRow } from '../revisions/index.ts';
import type { TypeRow } from '../rules/index.ts';
import { endHold } from './hold.ts';
import * as store from './store.ts';

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
  // Two commands within one millisecond still follow one another.
  const free = await store.findFreeFrom(work.trx, document.id);
  const from = free && free > wanted ? free : wanted;
  const former = await store.findInForce(work.trx, document.id);
  if (former) {
    await endPeriod(work.trx, document.id, from);
    await moveRevision(work.trx, { id: former.id, state: 'in force' }, 'superseded');
    await overtakeReadings(work, document.id, former.id);
    await endHold(work, document, former, `superseded by ${revision.label}`);
  }
  await moveRevision(work.trx, revision, 'in force');
  await beginPeriod(work.trx, {
    id: newId(),
    documentId: document.id,
    revisionId: revision.id,
    label: revision.label,
    from,
  });
  const day = dayOf(from, work.organisation.zone);
  await reviewAfterRelease(work, document, type, revision, day);
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
    link: { path: documentAddress(document.number), label: 'Open the document' },
  });
  const fresh = await findRevision(work.trx, revision.id);
  if (fresh) await deriveFor(app, work, document, fresh);
};
