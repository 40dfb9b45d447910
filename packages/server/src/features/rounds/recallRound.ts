import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Viewer } from '../access/index.ts';
import { type Opened, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { stopRun } from './progress.ts';
import * as store from './store.ts';

/** Calls a round back to draft, and tells those who were awaited and who submitted it. */
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
  work.record({
    kind: 'revision.recalled',
    subject: subjectOf(opened.document, revision),
    payload: { round: round.n, reason },
  });
  const tell = (people: string[], lead: string) =>
    notify(
      app,
      work,
      people.filter((id) => id !== viewer.id),
      {
        kind: 'round ended',
        about: opened.document.id,
        subject: `${opened.document.number} ${revision.label} was recalled`,
        lead,
        quote: reason,
        link: { path: '/', label: 'Open my Desk' },
      },
    );
  await tell(awaited, `${viewer.name} recalled it; your decision is no longer needed.`);
  if (!awaited.includes(round.started_by))
    await tell([round.started_by], `${viewer.name} recalled it. It is a draft again and is on your Desk.`);
};
