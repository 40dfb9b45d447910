import { leadsToRelease } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Viewer } from '../access/index.ts';
import { type Opened, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { stopRun } from './progress.ts';
import * as store from './store.ts';

/** Calls a round back to draft, or cancels an ad hoc one, and tells those who were awaited and who submitted it. */
export const recallRound = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  { opened, revision, round }: { opened: Opened; revision: NonNullable<Opened['work']>; round: store.RoundRow },
  reason: string,
): Promise<void> => {
  const awaited = (await store.listAssignments(work.trx, [round.id]))
    .filter((one) => one.state === 'open')
    .map((one) => one.person_id);
  await stopRun(work, { document: opened.document, revision, round }, reason);
  const isAdHoc = !leadsToRelease(round.definition);
  const subject = subjectOf(opened.document, revision);
  const { n, definition } = round;
  if (isAdHoc) work.record({ kind: 'round.cancelled', subject, payload: { round: n, name: definition.name, reason } });
  else work.record({ kind: 'revision.recalled', subject, payload: { round: n, reason } });
  const what = isAdHoc ? 'cancelled' : 'recalled';
  const tell = (people: string[], lead: string) =>
    notify(
      app,
      work,
      people.filter((id) => id !== viewer.id),
      {
        kind: 'round ended',
        about: opened.document.id,
        subject: `${opened.document.number} ${revision.label}${isAdHoc ? `, ${definition.name},` : ''} was ${what}`,
        lead,
        quote: reason,
        link: { path: '/', label: 'Open my Desk' },
      },
    );
  await tell(awaited, `${viewer.name} ${what} it; your decision is no longer needed.`);
  if (!isAdHoc && !awaited.includes(round.started_by))
    await tell([round.started_by], `${viewer.name} recalled it. It is a draft again and is on your Desk.`);
};
