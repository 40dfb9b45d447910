import { addDays } from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import {
  endWhere,
  FITS,
  findGroupName,
  findGroupRules,
  insertJoining,
  listGroupsByRule,
  listSignInNames,
} from './storeGroups.ts';

/**
 * Brings the groups that follow from metadata of people in line with what people are on a day: who fits joins, who fits no more
 * leaves. Manual entries stay. Each joining and leaving is an event.
 */
export const syncGroups = async (work: UnitOfWork): Promise<void> => {
  const rules = (await findGroupRules(work.trx))?.rules ?? [];
  const ruled = rules.map((rule) => rule.groupId);
  const left = rules.length ? [] : await listGroupsByRule(work.trx);
  for (const { groupId, unitIds } of [...rules, ...left.map(({ ref_id }) => ({ groupId: ref_id, unitIds: [] }))])
    await syncGroup(work, groupId, unitIds);
  await endOthers(work, ruled);
};

const syncGroup = async (work: UnitOfWork, groupId: string, unitIds: readonly string[]): Promise<void> => {
  const by = { group: groupId, units: [...new Set(unitIds)], day: work.day, before: addDays(work.day, -1) };
  const joined = await insertJoining(work.trx, by);
  const left = await endWhere(work, `ref_id = :group and person_id not in (${FITS})`, by);
  await tell(work, groupId, joined, 'membership.started');
  await tell(work, groupId, left, 'membership.ended');
};

/** Groups that a rule filled before and none does now. */
const endOthers = async (work: UnitOfWork, ruled: readonly string[]): Promise<void> => {
  const by = { ruled: [...ruled], day: work.day, before: addDays(work.day, -1) };
  await endWhere(work, 'ref_id <> all(:ruled::uuid[])', by);
};

const tell = async (
  work: UnitOfWork,
  groupId: string,
  people: readonly { person_id: string }[],
  kind: 'membership.started' | 'membership.ended',
): Promise<void> => {
  if (people.length === 0) return;
  const group = await findGroupName(work.trx, { groupId });
  const named = await listSignInNames(work.trx, { ids: people.map((one) => one.person_id) });
  const payload = { kind: 'group', in: group?.name ?? '', by: 'rule' };
  for (const person of named) {
    const subject = { person: { id: person.id, name: person.sign_in_name } };
    if (kind === 'membership.started') work.record({ kind, subject, payload: { ...payload, from: work.day } });
    else work.record({ kind, subject, payload: { ...payload, to: work.day } });
  }
};
