import type { Confidentiality } from '@kanonos/core';
import { changed, type Db, rows, type Trx } from '../../platform/db/connect.ts';

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

/** Older days get no reminder. */
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

/** Reminders already mailed. */
const SENT =
  'exists (select 1 from reminders_sent s where s.document_id = x.id and s.what = x.what and s.on_day = x.on_day and s.person_id = x.person_id)';

const MOST_SHOWN = 500;

export const listOwn = (db: Db | Trx, day: string, personId: string): Promise<Due[]> =>
  rows<Due>(db, `select * from ${DUE} where person_id = :personId::uuid order by on_day, number limit ${MOST_SHOWN}`, {
    day,
    personId,
  });

/** People with reminders not sent yet, and all reminders of one of them: without a limit, or later ones would never be sent. */
export const listPeopleToTell = (db: Db, day: string): Promise<{ person_id: string; name: string }[]> =>
  rows(
    db,
    `select distinct x.person_id, p.name from ${DUE} join people p on p.id = x.person_id where not ${SENT} order by 1`,
    { day },
  );

export const listUnsent = (trx: Trx, day: string, personId: string): Promise<Due[]> =>
  rows<Due>(trx, `select * from ${DUE} where person_id = :personId::uuid and not ${SENT} order by on_day, number`, {
    day,
    personId,
  });

export const insertReminder = (
  db: Trx,
  given: { document: string; what: string; on: string; person: string; now: Date },
) =>
  changed(
    db,
    `insert into reminders_sent (document_id, what, on_day, person_id, at) values (:document, :what, :on, :person, :now) on conflict do nothing`,
    given,
  );
