import { changed, type Db, firstRow, HOT, rows, type Trx } from '../../platform/db/connect.ts';

export type UnitRow = { id: string; kind: 'department' | 'role' | 'group' | 'site'; code: string; name: string };
export type MembershipRow = {
  id: string;
  person_id: string;
  kind: 'department' | 'role' | 'group' | 'site' | 'supervisor';
  ref_id: string;
  from_day: string;
  to_day: string | null;
  name: string;
};
export type PersonListRow = {
  id: string;
  sign_in_name: string;
  name: string;
  email: string;
  state: 'active' | 'invited' | 'reset' | 'deactivated';
  outside: boolean;
  from_day: string;
  to_day: string | null;
  organisation_rights: string[];
  row_version: number;
  department: string | null;
  site: string | null;
  supervisor_id: string | null;
  supervisor_name: string | null;
  roles: string[];
  groups: string[];
  away_until: string | null;
};

const TODAY = 'm.from_day <= :day and (m.to_day is null or m.to_day >= :day)';
const unitNames = (kind: string) =>
  `array(select u.name from memberships m join units u on u.id = m.ref_id where m.person_id = p.id and m.kind = '${kind}' and ${TODAY} order by u.name)`;
const PERSON = `select p.id, p.sign_in_name, p.name, p.email, p.state, p.outside, p.from_day, p.to_day, p.organisation_rights, p.row_version,
  (${unitNames('department')})[1] as department, (${unitNames('site')})[1] as site, ${unitNames('role')} as roles, ${unitNames('group')} as groups,
  s.id as supervisor_id, s.name as supervisor_name,
  (select max(a.to_day) from absences a where a.person_id = p.id and a.from_day <= :day and a.to_day >= :day) as away_until
  from people p
  left join memberships ms on ms.person_id = p.id and ms.kind = 'supervisor' and ms.from_day <= :day and (ms.to_day is null or ms.to_day >= :day)
  left join people s on s.id = ms.ref_id`;

/** People by a part of their names or of a unit that they belong to today. */
export const listPeople = (db: Db, by: { day: string; find: string; all: boolean }) =>
  rows<PersonListRow>(
    db,
    `${PERSON} where (:all::boolean or p.state <> 'deactivated')
       and (:find = '' or p.name ilike :like or p.sign_in_name ilike :like or exists (
         select 1 from memberships m join units u on u.id = m.ref_id where m.person_id = p.id and u.name ilike :like and ${TODAY}))
     order by p.name, p.id limit 500`,
    { ...by, like: `%${by.find.replace(/[\\%_]/g, '\\$&')}%` },
  );
export const findPersonRow = (db: Db | Trx, id: string, day: string) =>
  firstRow<PersonListRow>(db, `${PERSON} where p.id = :id`, { id, day });

export const listMemberships = (db: Db | Trx, personId: string) =>
  rows<MembershipRow>(
    db,
    `select m.*, coalesce(u.name, s.name) as name from memberships m left join units u on u.id = m.ref_id left join people s on s.id = m.ref_id
     where m.person_id = :personId order by m.kind, m.from_day desc`,
    { personId },
  );
export const listUnits = (db: Db | Trx) =>
  rows<UnitRow & { fallback_id: string | null; fallback_name: string | null }>(
    db,
    'select u.id, u.kind, u.code, u.name, f.id as fallback_id, f.name as fallback_name from units u left join people f on f.id = u.fallback_approver_id order by u.kind, u.name',
    {},
    HOT,
  );
export const findUnit = (db: Db | Trx, id: string) =>
  firstRow<UnitRow>(db, 'select id, kind, code, name from units where id = :id', { id });
export const setUnit = (trx: Trx, unit: { id: string; name: string; fallbackApproverId: string | null }) =>
  rows(trx, 'update units set name = :name, fallback_approver_id = :fallbackApproverId where id = :id', unit);
/** The fallback approver of a department who is still active; undefined where it has none. */
export const findFallbackApprover = async (db: Db | Trx, unitId: string) =>
  (
    await firstRow<{ id: string }>(
      db,
      `select p.id from units u join people p on p.id = u.fallback_approver_id where u.id = :unitId and p.state = 'active'`,
      { unitId },
    )
  )?.id;
export const insertUnit = (trx: Trx, unit: UnitRow) =>
  rows(trx, 'insert into units (id, kind, code, name) values (:id, :kind, :code, :name)', unit);

export const insertPerson = (
  trx: Trx,
  person: { id: string; signInName: string; name: string; email: string; from: string; outside: boolean },
) =>
  rows(
    trx,
    'insert into people (id, sign_in_name, name, email, from_day, outside) values (:id, :signInName, :name, :email, :from, :outside)',
    person,
  );
export const insertMembership = (
  trx: Trx,
  membership: { id: string; personId: string; kind: string; refId: string; from: string },
) =>
  rows(
    trx,
    'insert into memberships (id, person_id, kind, ref_id, from_day) values (:id, :personId, :kind, :refId, :from)',
    membership,
  );
/** Ends the former department, supervisor or site on the day before; a later planned one is dropped. */
export const endExclusive = async (trx: Trx, by: { personId: string; kind: string; from: string }) => {
  await rows(trx, 'delete from memberships where person_id = :personId and kind = :kind and from_day >= :from', by);
  await rows(
    trx,
    'update memberships set to_day = :from::date - 1 where person_id = :personId and kind = :kind and (to_day is null or to_day >= :from)',
    by,
  );
};
export const endMembership = (trx: Trx, by: { id: string; personId: string; to: string }) =>
  changed(trx, 'update memberships set to_day = :to where id = :id and person_id = :personId', by);
export const endAllMemberships = (trx: Trx, personId: string, day: string) =>
  rows(
    trx,
    'update memberships set to_day = greatest(:day::date, from_day) where person_id = :personId and (to_day is null or to_day > :day)',
    { personId, day },
  );

export const changePerson = (
  trx: Trx,
  change: { id: string; name: string; email: string; organisationRights: string[]; rowVersion: number },
) =>
  changed(
    trx,
    'update people set name = :name, email = :email, organisation_rights = :organisationRights::text[], row_version = row_version + 1 where id = :id and row_version = :rowVersion',
    change,
  );
export const keepAddress = (trx: Trx, by: { personId: string; address: string }) =>
  rows(
    trx,
    `insert into person_addresses (person_id, address) select :personId, :address where :address <> '' on conflict do nothing`,
    by,
  );
/** How many people may change the names of people. */
export const countKeepers = async (trx: Trx, day: string): Promise<number> =>
  (
    await firstRow<{ n: number }>(
      trx,
      `select count(*)::int as n from people where state = 'active' and 'people' = any(organisation_rights_of(id, :day))`,
      { day },
    )
  )?.n ?? 0;
export const setState = (trx: Trx, change: { id: string; state: string; to: string | null }) =>
  rows(
    trx,
    `update people set state = :state, to_day = :to, password_hash = null, row_version = row_version + 1 where id = :id`,
    change,
  );
export const endSessions = (trx: Trx, personId: string) =>
  rows(trx, 'delete from sessions where person_id = :personId', { personId });

/** All supervisors of a person on a day, up to the top, to refuse circles. */
export const listAbove = async (trx: Trx, personId: string, day: string): Promise<string[]> =>
  (
    await rows<{ id: string }>(
      trx,
      `with recursive above(id, depth) as (
         select m.ref_id, 1 from memberships m where m.person_id = :personId and m.kind = 'supervisor' and ${TODAY}
         union select m.ref_id, depth + 1 from above a join memberships m on m.person_id = a.id and m.kind = 'supervisor' and ${TODAY} where depth < 30)
       select id from above`,
      { personId, day },
    )
  ).map((row) => row.id);

export const listNames = (db: Db, by: { find: string; outside: boolean; day: string }) =>
  rows<{ id: string; name: string; department: string | null }>(
    db,
    `select p.id, p.name, (${unitNames('department')})[1] as department from people p where p.state = 'active' and (:outside or not p.outside) and (:find = '' or p.name ilike :like) order by p.name limit 60`,
    { ...by, like: `%${by.find.replace(/[\\%_]/g, '\\$&')}%` },
  );

/** Who was in units on a day, active people only. */
export const listMembers = (db: Db | Trx, unitIds: string[], day: string) =>
  rows<{ unit_id: string; person_id: string }>(
    db,
    `select m.ref_id as unit_id, m.person_id from memberships m join people p on p.id = m.person_id
     where m.ref_id = any(:unitIds::uuid[]) and m.kind <> 'supervisor' and ${TODAY} and p.state in ('active', 'reset') order by p.name`,
    { unitIds, day },
  );
export const findSupervisor = async (db: Db | Trx, personId: string, day: string) =>
  (
    await firstRow<{ ref_id: string }>(
      db,
      `select m.ref_id from memberships m where m.person_id = :personId and m.kind = 'supervisor' and ${TODAY}`,
      { personId, day },
    )
  )?.ref_id;
export const findDepartment = async (db: Db | Trx, personId: string, day: string) =>
  (
    await firstRow<{ ref_id: string }>(
      db,
      `select m.ref_id from memberships m where m.person_id = :personId and m.kind = 'department' and ${TODAY}`,
      { personId, day },
      HOT,
    )
  )?.ref_id;
export const listPeopleDates = (db: Db | Trx) =>
  rows<{ person_id: string; from: string; to: string | null }>(
    db,
    `select id as person_id, from_day as from, to_day as to from people where not outside and state <> 'deactivated'`,
  );
export const listEveryone = (db: Db | Trx, day: string) =>
  rows<{ id: string; name: string }>(
    db,
    `select id, name from people where not outside and state <> 'deactivated' and from_day <= :day and (to_day is null or to_day >= :day)
     order by name`,
    { day },
  );
export const listMembershipsOf = (db: Db | Trx, unitIds: string[]) =>
  rows<{ person_id: string; unit_id: string; from: string; to: string | null }>(
    db,
    `select person_id, ref_id as unit_id, from_day as from, to_day as to from memberships where ref_id = any(:unitIds::uuid[]) and kind <> 'supervisor'`,
    { unitIds },
  );
export const listTeam = (db: Db | Trx, supervisorId: string, day: string) =>
  rows<{ id: string; name: string }>(
    db,
    `select p.id, p.name from memberships m join people p on p.id = m.person_id where m.kind = 'supervisor' and m.ref_id = :supervisorId and ${TODAY} and p.state <> 'deactivated' order by p.name`,
    { supervisorId, day },
  );
export const findNames = (db: Db | Trx, ids: string[]) =>
  rows<{ id: string; name: string; sign_in_name: string; state: string }>(
    db,
    'select id, name, sign_in_name, state from people where id = any(:ids::uuid[])',
    { ids },
    HOT,
  );
