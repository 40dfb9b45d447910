import { addDays } from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import { firstRow, rows } from '../../platform/db/connect.ts';

/** A group whose members are those who belong to all of these departments, sites and roles. */
export type GroupRule = { groupId: string; unitIds: readonly string[] };

/**
 * Brings the groups that follow from metadata of people in line with what people are on a day: who fits joins, who fits no more
 * leaves. What was entered by hand stays. Each joining and leaving is an event.
 */
export const syncGroups = async (work: UnitOfWork): Promise<void> => {
  const rules =
    (await firstRow<{ rules: GroupRule[] }>(work.trx, 'select group_rules as rules from organisation'))?.rules ?? [];
  const ruled = rules.map((rule) => rule.groupId);
  const left = rules.length
    ? []
    : await rows<{ ref_id: string }>(
        work.trx,
        'select distinct ref_id from memberships where by_rule and to_day is null',
      );
  for (const { groupId, unitIds } of [...rules, ...left.map(({ ref_id }) => ({ groupId: ref_id, unitIds: [] }))])
    await syncGroup(work, groupId, unitIds);
  await endOthers(work, ruled);
};

/** Who belongs to all units of a rule today; nobody where the rule names none. */
const FITS = `select p.id from people p where p.state <> 'deactivated' and cardinality(:units::uuid[]) > 0
  and (select count(distinct m.ref_id) from memberships m where m.person_id = p.id and m.ref_id = any(:units::uuid[])
    and m.from_day <= :day and (m.to_day is null or m.to_day >= :day)) = cardinality(:units::uuid[])`;

const syncGroup = async (work: UnitOfWork, groupId: string, unitIds: readonly string[]): Promise<void> => {
  const by = { group: groupId, units: [...new Set(unitIds)], day: work.day, before: addDays(work.day, -1) };
  const joined = await rows<{ person_id: string }>(
    work.trx,
    `insert into memberships (id, person_id, kind, ref_id, from_day, by_rule)
     select gen_random_uuid(), f.id, 'group', :group, :day, true from (${FITS}) f
     where not exists (select 1 from memberships m where m.person_id = f.id and m.kind = 'group' and m.ref_id = :group
       and (m.to_day is null or m.to_day >= :day)) returning person_id`,
    by,
  );
  const gone = await endWhere(work, `ref_id = :group and person_id not in (${FITS})`, by);
  await tell(work, groupId, joined, 'membership.started');
  await tell(work, groupId, gone, 'membership.ended');
};

/** Groups that a rule filled before and none does now. */
const endOthers = async (work: UnitOfWork, ruled: readonly string[]): Promise<void> => {
  const by = { ruled: [...ruled], day: work.day, before: addDays(work.day, -1) };
  await endWhere(work, 'ref_id <> all(:ruled::uuid[])', by);
};

const endWhere = async (work: UnitOfWork, where: string, by: Record<string, unknown>) => [
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

const tell = async (
  work: UnitOfWork,
  groupId: string,
  people: readonly { person_id: string }[],
  kind: 'membership.started' | 'membership.ended',
): Promise<void> => {
  if (people.length === 0) return;
  const group = await firstRow<{ name: string }>(work.trx, 'select name from units where id = :groupId', { groupId });
  const named = await rows<{ id: string; sign_in_name: string }>(
    work.trx,
    'select id, sign_in_name from people where id = any(:ids::uuid[]) order by sign_in_name',
    { ids: people.map((one) => one.person_id) },
  );
  for (const person of named)
    work.record({
      kind,
      subject: { person: { id: person.id, name: person.sign_in_name } },
      payload: {
        kind: 'group',
        in: group?.name ?? '',
        [kind === 'membership.started' ? 'from' : 'to']: work.day,
        by: 'rule',
      },
    });
};
