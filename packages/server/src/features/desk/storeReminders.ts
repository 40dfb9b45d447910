import { type Confidentiality, PLAIN_REVIEW } from '@kanonos/core';
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
  kind: 'field' | 'source' | 'check-out' | 'review' | 'review overdue';
};

/** Older days get no reminder. */
const KEPT_DAYS = 60;

/** Every day that somebody is to be reminded of, on a day, but for reviews: the Desk has rows of its own for them. */
const DAYS = `
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
       from checkouts k join documents d on d.id = k.document_id where k.ended_at is null and k.expected_back < :day::date`;

/** Reviews: the owner is asked some days ahead, and the owner's supervisor is told when it is overdue for so long. */
const REVIEWS = `
       select d.id, d.folder_id, d.owner_id, d.confidentiality, d.number, d.public_title as title, d.public_label as label, d.public_title, 'Periodic review' as what, d.review_on as on_day, d.owner_id as person_id, 'review' as kind
       from documents d join types t on t.id = d.type_id
       where d.public_state = 'in force' and d.newest_state = 'in force' and d.removed_at is null
         and d.review_on between :day::date - ${KEPT_DAYS} and :day::date + coalesce((t.policy->'review'->>'daysAhead')::int, ${PLAIN_REVIEW.daysAhead})
       union all
       select d.id, d.folder_id, d.owner_id, d.confidentiality, d.number, d.public_title, d.public_label, d.public_title, 'Periodic review is overdue', d.review_on, m.ref_id, 'review overdue'
       from documents d join types t on t.id = d.type_id
       join memberships m on m.person_id = d.owner_id and m.kind = 'supervisor' and m.from_day <= :day::date and (m.to_day is null or m.to_day >= :day::date)
       where d.public_state = 'in force' and d.newest_state = 'in force' and d.removed_at is null
         and (t.policy->'review' is null or t.policy->'review'->'escalateAfterDays' <> 'null'::jsonb)
         and d.review_on between :day::date - ${KEPT_DAYS} and :day::date - 1 - coalesce((t.policy->'review'->>'escalateAfterDays')::int, ${PLAIN_REVIEW.escalateAfterDays})`;

const SHOWN = `(${DAYS}) x`;
const DUE = `(${DAYS} union all ${REVIEWS}) x`;

/** Reminders already mailed. */
const SENT =
  'exists (select 1 from reminders_sent s where s.document_id = x.id and s.what = x.what and s.on_day = x.on_day and s.person_id = x.person_id)';

const MOST_SHOWN = 500;

export const listOwn = (db: Db | Trx, day: string, personId: string): Promise<Due[]> =>
  rows<Due>(
    db,
    `select * from ${SHOWN} where person_id = :personId::uuid order by on_day, number limit ${MOST_SHOWN}`,
    {
      day,
      personId,
    },
  );

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
