import type { HorizonKind, RevisionState } from '@kanonos/core';
import { type Db, rows } from '../../platform/db/connect.ts';
import { type ListScope, SEES, SEES_WORK } from '../access/index.ts';

export type DueRow = {
  kind: HorizonKind;
  id: string;
  document_id: string;
  number: string;
  title: string;
  label: string;
  state: RevisionState;
  on_hold: boolean;
  day: string;
  person_id: string | null;
  person: string | null;
  people: number;
  what: string;
  words: number;
  pictures: number;
};

/** Overdue for longer, it is no longer a matter of the weeks ahead. */
const KEPT_DAYS = 400;
export const MOST_DUE = 1000;

/** The columns of every kind; `who` is the person who does it. */
const columns = (
  kind: HorizonKind,
  id: string,
  state: string,
  day: string,
  who: string,
  more = `1 as people, '' as what, 0 as words, 0 as pictures`,
) =>
  `'${kind}' as kind, ${id}::text as id, d.id as document_id, d.number, d.department_id, d.folder_id, d.owner_id,
   ${state === 'work' ? 'r.title, r.label, r.state' : `d.public_title as title, d.public_label as label, 'in force' as state`},
   d.hold is not null as on_hold, ${day} as day, ${who} as person_id, ${more}`;

const WITHIN = (day: string) => `${day} between :day::date - ${KEPT_DAYS} and :until::date`;

/** Who does it is the viewer, or the document lies in a folder that the viewer answers for. */
const CONCERNS = `(x.person_id = :me or (:all::boolean and x.folder_id = any(:folderIds::uuid[])))`;

/** What comes due up to a day, the earliest first: at most one more than is shown. */
export const listDue = (
  db: Db,
  scope: ListScope,
  by: {
    day: string;
    until: string;
    all: boolean;
    folderIds: string[];
    person: string | null;
    department: string | null;
  },
) =>
  rows<DueRow>(
    db,
    `with due as (
       select ${columns('review', 'd.id', 'public', 'd.review_on', 'd.owner_id')}
       from documents d where d.public_state = 'in force' and d.newest_state = 'in force' and d.removed_at is null and ${WITHIN('d.review_on')} and ${SEES}
       union all
       select ${columns('withdrawal', 'd.id', 'public', 'd.withdraw_on', 'd.owner_id')}
       from documents d where d.withdraw_on is not null and d.removed_at is null and ${WITHIN('d.withdraw_on')} and ${SEES}
       union all
       select ${columns('effective', 'r.id', 'work', 'r.planned_on', 'd.owner_id')}
       from revisions r join documents d on d.id = r.document_id where r.state = 'scheduled' and d.removed_at is null and ${WITHIN('r.planned_on')} and ${SEES_WORK}
       union all
       select ${columns('check-out', 'k.id', 'work', 'k.expected_back', 'k.person_id', `1, coalesce(k.note, ''), 0, 0`)}
       from checkouts k join documents d on d.id = k.document_id join revisions r on r.id = d.newest_revision_id
       where k.ended_at is null and d.removed_at is null and ${WITHIN('k.expected_back')} and (k.person_id = :me or ${SEES_WORK})
       union all
       select ${columns('task', 't.id', 'work', 't.due_on', 't.assignee_id', '1, t.what, 0, 0')}
       from change_note_tasks t join documents d on d.id = t.note_id join revisions r on r.id = d.newest_revision_id
       where t.state = 'open' and d.removed_at is null and ${WITHIN('t.due_on')} and (t.assignee_id = :me or ${SEES_WORK})
       union all
       select ${columns('reading', 'a.id', 'work', 'a.due_on', 'a.person_id', `1, '', coalesce(f.words, 0)::int, coalesce(f.pictures, 0)::int`)}
       from reading_assignments a join documents d on d.id = a.document_id join revisions r on r.id = a.revision_id
       left join lateral (select sum(c.words) as words, sum(c.pictures) as pictures from version_files vf join contents c on c.sha256 = vf.sha256 where vf.version_id = r.latest_version_id) f on true
       where a.state = 'open' and r.state in ('in force', 'scheduled') and d.removed_at is null and ${WITHIN('a.due_on')} and (a.person_id = :me or ${SEES})
     ), mine as (
       select x.* from due x where ${CONCERNS}
         and (:person::uuid is null or x.person_id = :person::uuid) and (:department::uuid is null or x.department_id = :department::uuid)
     )
     -- Those who read the same by the same day are one line.
     select y.kind, min(y.id) as id, y.document_id, y.number, y.title, y.label, y.state, y.on_hold, y.day,
       case when count(*) = 1 then min(y.person_id::text)::uuid end as person_id, case when count(*) = 1 then min(p.name) end as person,
       sum(y.people)::int as people, y.what, y.words, y.pictures
     from mine y left join people p on p.id = y.person_id
     group by y.kind, case when y.kind = 'reading' then '' else y.id end, y.document_id, y.number, y.title, y.label, y.state, y.on_hold, y.day, y.what, y.words, y.pictures
     order by y.day, y.kind, y.number limit ${MOST_DUE + 1}`,
    { ...scope, ...by },
  );

/** When some people are away. */
export const listAbsences = (db: Db, personIds: readonly string[]) =>
  rows<{ person_id: string; from_day: string; to_day: string }>(
    db,
    `select person_id, from_day, to_day from absences where person_id::text = any(:personIds::text[])`,
    { personIds },
  );
