import type { UnitOfWork } from '../../platform/app.ts';
import { firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export const findGroupRules = (db: Trx) =>
  firstRow<{ rules: GroupRule[] }>(db, 'select group_rules as rules from organisation');

export const listGroupsByRule = (db: Trx) =>
  rows<{ ref_id: string }>(db, 'select distinct ref_id from memberships where by_rule and to_day is null');

export const insertJoining = (db: Trx, given: { group: string; units: string[]; day: string; before: string }) =>
  rows<{ person_id: string }>(
    db,
    `insert into memberships (id, person_id, kind, ref_id, from_day, by_rule)
     select gen_random_uuid(), f.id, 'group', :group, :day, true from (${FITS}) f
     where not exists (select 1 from memberships m where m.person_id = f.id and m.kind = 'group' and m.ref_id = :group
       and (m.to_day is null or m.to_day >= :day)) returning person_id`,
    given,
  );

export const findGroupName = (db: Trx, given: { groupId: string }) =>
  firstRow<{ name: string }>(db, 'select name from units where id = :groupId', given);

export const listSignInNames = (db: Trx, given: { ids: string[] }) =>
  rows<{ id: string; sign_in_name: string }>(
    db,
    'select id, sign_in_name from people where id = any(:ids::uuid[]) order by sign_in_name',
    given,
  );

/** A group whose members are those who belong to all of these departments, sites and roles. */
export type GroupRule = { groupId: string; unitIds: readonly string[] };

/** Who belongs to all units of a rule today; nobody where the rule names none. */
export const FITS = `select p.id from people p where p.state <> 'deactivated' and cardinality(:units::uuid[]) > 0
  and (select count(distinct m.ref_id) from memberships m where m.person_id = p.id and m.ref_id = any(:units::uuid[])
    and m.from_day <= :day and (m.to_day is null or m.to_day >= :day)) = cardinality(:units::uuid[])`;

export const endWhere = async (work: UnitOfWork, where: string, by: Record<string, unknown>) => [
  ...(await rows<{ person_id: string }>(
    work.trx,
    `delete from memberships where by_rule and to_day is null and from_day >= :day and ${where} returning person_id`,
    by,
  )),
  ...(await rows<{ person_id: string }>(
    work.trx,
    `update memberships set to_day = :before where by_rule and to_day is null and from_day < :day and ${where} returning person_id`,
    by,
  )),
];
