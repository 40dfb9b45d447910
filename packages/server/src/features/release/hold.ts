import type { api } from '@kanonos/contract';
import { documentAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { refused } from '../../platform/refused.ts';
import type { HandlerOf } from '../access/index.ts';
import { type DocumentRow, runCommand, setHold, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { readersAsked } from '../reading/index.ts';
import type { RevisionRow } from '../revisions/index.ts';

/** Everybody who uses the document as far as is known: its owner, and whoever was asked to read what is in force. */
const tellUsers = async (
  app: App,
  work: UnitOfWork,
  document: DocumentRow,
  revision: RevisionRow,
  { subject, lead, quote }: { subject: string; lead: string; quote: string },
): Promise<void> =>
  void (await notify(app, work, [...new Set([document.owner_id, ...(await readersAsked(work.trx, revision.id))])], {
    kind: 'release',
    about: document.id,
    subject: `${document.number} ${revision.label} ${subject}`,
    lead,
    quote,
    link: { path: documentAddress(document.number), label: 'Open the document' },
  }));

/** Says that what is in force must not be used until further notice, and tells those who use it. */
export const putOnHold: HandlerOf<typeof api.documents.putOnHold, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'put on hold', seen: input.seen }, async (work, opened) => {
    const { document, inForce } = opened;
    if (!inForce) throw refused('nothing_in_force');
    await setHold(work.trx, document.id, {
      reason: input.reason,
      wayOut: input.wayOut,
      by: viewer.name,
      since: work.now.toISOString(),
    });
    work.record({
      kind: 'document.put-on-hold',
      subject: subjectOf(document, inForce),
      payload: { reason: input.reason, wayOut: input.wayOut },
    });
    await tellUsers(app, work, document, inForce, {
      subject: 'is on hold',
      lead: `${inForce.title} must not be used until further notice.${input.wayOut ? ` Until then: ${input.wayOut}` : ''}`,
      quote: input.reason,
    });
  });

/** Lets it be used again. */
export const liftHold: HandlerOf<typeof api.documents.liftHold, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'lift hold', seen: input.seen }, async (work, opened) => {
    const { document, inForce } = opened;
    if (!inForce) throw refused('nothing_in_force');
    await endHold(work, document, inForce, input.reason);
    await tellUsers(app, work, document, inForce, {
      subject: 'may be used again',
      lead: `${inForce.title} is no longer on hold.`,
      quote: input.reason,
    });
  });

/** Ends a hold, where there is one: it is about the revision that was in force, and ends with it. */
export const endHold = async (
  work: UnitOfWork,
  document: DocumentRow,
  revision: Pick<RevisionRow, 'id' | 'label'>,
  reason: string,
): Promise<void> => {
  if (!document.hold) return;
  await setHold(work.trx, document.id, null);
  work.record({ kind: 'document.hold-lifted', subject: subjectOf(document, revision), payload: { reason } });
};
