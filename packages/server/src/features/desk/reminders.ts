import { type Confidentiality, dayInWords, dayOf } from '@kanonos/core';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { changed, type Db, rows, type Trx } from '../../platform/db/connect.ts';
import { rightsWithAsked, toPlace, type Viewer, viewerOf } from '../access/index.ts';
import { notify } from '../mailing/index.ts';
import { eachOnItsOwn } from '../system/index.ts';

/** A day of a document that somebody is to be reminded of: a day field that says so, a look at the source, a check-out that is overdue. */
export type Due = {
  id: string;
  folder_id: string;
  owner_id: string;
  confidentiality: Confidentiality;
  number: string;
  title: string;
  label: string;
  public_title: string | null;
  what: string;
  on_day: string;
  person_id: string;
  kind: 'field' | 'source' | 'check-out';
};

/** What was long ago is no longer reminded of. */
const KEPT_DAYS = 60;

/** Every day that somebody is to be reminded of, on a day. */
const DUE = `(
       select d.id, d.folder_id, d.owner_id, d.confidentiality, d.number, d.newest_title as title, d.newest_label as label, d.public_title, f->>'label' as what, v.day as on_day,
         case when f->'remind'->>'to' = 'owner' then d.owner_id else coalesce(d.metadata->>(f->'remind'->>'to'), r.metadata->>(f->'remind'->>'to'))::uuid end as person_id,
         'field' as kind
       from types t cross join lateral jsonb_array_elements(t.fields) f
       join documents d on d.type_id = t.id join revisions r on r.id = coalesce(d.public_revision_id, d.newest_revision_id)
       cross join lateral (select coalesce(d.metadata->>(f->>'key'), r.metadata->>(f->>'key'))::date as day) v
       where jsonb_exists(f, 'remind') and d.removed_at is null and d.newest_state not in ('withdrawn', 'abandoned')
         and v.day between :day::date - ${KEPT_DAYS} and :day::date + (f->'remind'->>'days')::int
       union all
       select d.id, d.folder_id, d.owner_id, d.confidentiality, d.number, d.newest_title, d.newest_label, d.public_title, 'Look at its source', d.origin_check_on, coalesce(d.origin_watcher, d.owner_id), 'source'
       from documents d where d.origin_check_on <= :day::date and d.removed_at is null and d.newest_state not in ('withdrawn', 'abandoned')
       union all
       select d.id, d.folder_id, d.owner_id, d.confidentiality, d.number, d.newest_title, d.newest_label, d.public_title, 'Expected back', k.expected_back, k.person_id, 'check-out'
       from checkouts k join documents d on d.id = k.document_id where k.ended_at is null and k.expected_back < :day::date) x`;
/** What was mailed already. */
const SENT =
  'exists (select 1 from reminders_sent s where s.document_id = x.id and s.what = x.what and s.on_day = x.on_day and s.person_id = x.person_id)';
const MOST_SHOWN = 500;

const listOwn = (db: Db | Trx, day: string, personId: string): Promise<Due[]> =>
  rows<Due>(db, `select * from ${DUE} where person_id = :personId::uuid order by on_day, number limit ${MOST_SHOWN}`, {
    day,
    personId,
  });
/** People who have not been told of something yet, and all of it for one of them: nothing is cut off, or later ones would never come. */
const listPeopleToTell = (db: Db, day: string): Promise<{ person_id: string; name: string }[]> =>
  rows(
    db,
    `select distinct x.person_id, p.name from ${DUE} join people p on p.id = x.person_id where not ${SENT} order by 1`,
    { day },
  );
const listUnsent = (trx: Trx, day: string, personId: string): Promise<Due[]> =>
  rows<Due>(trx, `select * from ${DUE} where person_id = :personId::uuid and not ${SENT} order by on_day, number`, {
    day,
    personId,
  });

/** What is due for somebody on a day, as far as that person may see it. */
export const dueReminders = async (db: Db | Trx, viewer: Viewer, day: string): Promise<Due[]> =>
  // An overdue check-out stands on the Desk already, as what is to be finished.
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

/** Mails every reminder once, person by person; a day that is moved is reminded of anew. Answers how many. */
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
      const isFirst = await changed(
        work.trx,
        `insert into reminders_sent (document_id, what, on_day, person_id, at) values (:document, :what, :on, :person, :now) on conflict do nothing`,
        { document: due.id, what: due.what, on: due.on_day, person: due.person_id, now: work.now },
      );
      if (isFirst === 0) continue;
      sent++;
      await notify(app, work, [due.person_id], {
        kind: 'reminder',
        subject: `${due.number}: ${due.what}, ${dayInWords(due.on_day)}`,
        lead: leadOf(due),
        link: { path: `/d/${encodeURIComponent(due.number)}`, label: 'Open the document' },
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
    default:
      return `${number} ${title}: ${what} is ${dayInWords(on_day)}.`;
  }
};
