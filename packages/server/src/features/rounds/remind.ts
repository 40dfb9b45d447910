import { dayInWords, dayOf } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Viewer } from '../access/index.ts';
import { type Opened, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import * as store from './store.ts';

/** Reminds everybody whom a round awaits now; tells how many. */
export const remindRound = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  { opened, revision, round }: { opened: Opened; revision: NonNullable<Opened['work']>; round: store.RoundRow },
): Promise<number> => {
  const open = (await store.listAssignments(work.trx, [round.id])).filter((a) => a.state === 'open');
  for (const assignment of open) {
    await notify(app, work, [assignment.person_id], {
      kind: 'reminder',
      about: opened.document.id,
      subject: `Reminder: ${opened.document.number} ${revision.label} is waiting for you`,
      lead: `${viewer.name} reminds you that ${revision.title} has been waiting for your decision since ${assignment.opened_at ? dayInWords(dayOf(assignment.opened_at, work.organisation.zone)) : 'it was submitted'}.`,
      link: { path: `/tasks/${assignment.id}`, label: 'Decide' },
    });
  }
  await store.noteReminded(
    work.trx,
    open.map((a) => a.id),
    work.now,
  );
  work.record({
    kind: 'assignment.reminded',
    subject: subjectOf(opened.document, revision),
    payload: { people: open.length },
  });
  return open.length;
};
