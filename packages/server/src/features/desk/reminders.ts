import { dayInWords, dayOf } from '@kanonos/core';
import { documentAddress } from '../../platform/addresses.ts';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { rightsWithAsked, toPlace, type Viewer, viewerOf } from '../access/index.ts';
import { notify } from '../mailing/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import { type Due, insertReminder, listOwn, listPeopleToTell, listUnsent } from './storeReminders.ts';

/** What is due for somebody on a day, as far as that person may see it. */
export const dueReminders = async (db: Db | Trx, viewer: Viewer, day: string): Promise<Due[]> =>
  // An overdue check-out is on the Desk already, as work to finish.
  visible(
    db,
    viewer,
    (await listOwn(db, day, viewer.id)).filter((due) => due.kind !== 'check-out'),
    day,
  );

const visible = async (db: Db | Trx, viewer: Viewer, found: Due[], day: string): Promise<Due[]> => {
  const rights = await rightsWithAsked(db, viewer, found.map(toPlace), day);
  return found.flatMap((due) => {
    const given = rights.get(due.id);
    if (given?.has('read work')) return [due];
    return given?.has('see') && due.public_title !== null ? [{ ...due, title: due.public_title }] : [];
  });
};

/** Mails every reminder once, person by person, and again for a moved day. Answers how many. */
export const sendReminders = async (app: App): Promise<number> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  let sent = 0;
  await eachOnItsOwn(
    app,
    'reminder',
    await listPeopleToTell(app.db, day),
    ({ person_id, name }) => ({ subject: person_id, label: `Reminders of ${name}` }),
    async ({ person_id }) => {
      sent += await remindOne(app, person_id, day);
    },
  );
  return sent;
};

const remindOne = (app: App, personId: string, day: string): Promise<number> =>
  app.command(SYSTEM_CLOCK, async (work) => {
    let sent = 0;
    const theirs = await listUnsent(work.trx, day, personId);
    const seen = await visible(work.trx, await viewerOf(work.trx, personId, day), theirs, day);
    for (const due of seen) {
      const isFirst = await insertReminder(work.trx, {
        document: due.id,
        what: due.what,
        on: due.on_day,
        person: due.person_id,
        now: work.now,
      });
      if (isFirst === 0) continue;
      sent++;
      await notify(app, work, [due.person_id], {
        kind: 'reminder',
        subject: `${due.number}: ${due.what}, ${dayInWords(due.on_day)}`,
        lead: leadOf(due),
        link:
          due.kind === 'review'
            ? { path: `${documentAddress(due.number)}/review`, label: 'Review the document' }
            : { path: documentAddress(due.number), label: 'Open the document' },
      });
    }
    return sent;
  });

const leadOf = ({ kind, number, title, what, on_day }: Due): string => {
  switch (kind) {
    case 'source':
      return `${number} ${title} comes from outside. It is due to be looked at where it comes from.`;
    case 'check-out':
      return `You have ${number} ${title} checked out. It was expected back on ${dayInWords(on_day)}. Check it in, or discard the check-out.`;
    case 'review':
      return `${number} ${title} is due for its periodic review on ${dayInWords(on_day)}. Confirm that it is right as it is, or say what has to change.`;
    case 'review overdue':
      return `${number} ${title} was due for its periodic review on ${dayInWords(on_day)}. Its owner reports to you and has not answered.`;
    default:
      return `${number} ${title}: ${what} is ${dayInWords(on_day)}.`;
  }
};
