import type { api, PersonDetail, PersonRow, QueryOf, Unit } from '@kanonos/contract';
import { dayOf, type OrganisationRight } from '@kanonos/core';
import { type App, SYSTEM_CLOCK, type UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { mailAddresses } from '../mailing/index.ts';
import { changingNumbers, syncGroups } from '../rules/index.ts';
import { endPrograms, mailPasswordLink } from '../session/index.ts';
import * as store from './store.ts';

const NAME = /^[a-z0-9][a-z0-9.-]{1,63}$/;
const today = async (app: App) => dayOf(app.clock(), (await app.organisation()).zone);

const toRow = (row: store.PersonListRow): PersonRow => ({
  id: row.id,
  signInName: row.sign_in_name,
  name: row.name,
  email: row.email,
  state: row.state,
  department: row.department,
  supervisor: row.supervisor_id ? { id: row.supervisor_id, name: row.supervisor_name ?? '' } : null,
  roles: row.roles,
  groups: row.groups,
  site: row.site,
  since: row.from_day,
  until: row.to_day,
  outside: row.outside,
  awayUntil: row.away_until,
});

/** Everyone of the organisation sees names, department and supervisor; mail addresses only who keeps people. */
export const listPeople = async (
  app: App,
  viewer: Viewer,
  by: { find: string; state: 'active' | 'all' },
): Promise<PersonRow[]> => {
  if (viewer.outside) return [];
  const found = await store.listPeople(app.db, { day: await today(app), find: by.find, all: by.state === 'all' });
  const keeps = viewer.organisationRights.has('people');
  return found.map((row) => ({ ...toRow(row), ...(keeps ? {} : { email: '', signInName: '' }) }));
};

export const listNames = async (app: App, viewer: Viewer, { find, outside }: QueryOf<typeof api.people.names>) =>
  viewer.outside ? [] : store.listNames(app.db, { find, outside: outside === 'yes', day: await today(app) });

export const listUnits = async (app: App): Promise<Unit[]> =>
  (await store.listUnits(app.db)).map(({ fallback_id, fallback_name, ...unit }) => ({
    ...unit,
    fallbackApprover: fallback_id && fallback_name ? { id: fallback_id, name: fallback_name } : null,
  }));

/** Renames a unit, and sets the fallback approver of a department. */
export const changeUnit = (
  app: App,
  viewer: Viewer,
  id: string,
  { name, fallbackApproverId }: { name: string; fallbackApproverId: string | null },
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const before = (await store.listUnits(work.trx)).find((unit) => unit.id === id);
    if (!before) throw refused('not_found');
    if (fallbackApproverId && before.kind !== 'department')
      throw refused('unit_unknown', { field: 'Fallback approver', kind: 'department' });
    const [approver] = fallbackApproverId ? await store.findNames(work.trx, [fallbackApproverId]) : [];
    if (fallbackApproverId && !approver) throw refused('not_found');
    if (approver?.state === 'deactivated') throw refused('person_inactive', { who: approver.name });
    await store.setUnit(work.trx, { id, name, fallbackApproverId });
    work.record({
      kind: 'unit.changed',
      subject: { unit: { id, name } },
      payload: {
        before: { name: before.name, fallbackApprover: before.fallback_name },
        after: { name, fallbackApprover: approver?.name ?? null },
      },
    });
  });
export const fallbackApproverOf = store.findFallbackApprover;

export const addUnit = (
  app: App,
  viewer: Viewer,
  unit: { kind: Unit['kind']; code: string; name: string },
): Promise<{ id: string }> =>
  app.command(actorOf(viewer), async (work) => {
    const id = newId();
    const insert = () => store.insertUnit(work.trx, { id, ...unit });
    // Numbers may contain the code of a department.
    if (unit.kind === 'department') await changingNumbers(work, insert);
    else await insert();
    work.record({ kind: 'unit.added', subject: { unit: { id, name: unit.name } }, payload: { ...unit } });
    return { id };
  });

export const personDetail = async (app: App, id: string): Promise<PersonDetail> => {
  const row = await store.findPersonRow(app.db, id, await today(app));
  if (!row) throw refused('not_found');
  const memberships = await store.listMemberships(app.db, id);
  return {
    ...toRow(row),
    organisationRights: row.organisation_rights as OrganisationRight[],
    memberships: memberships.map((m) => ({
      id: m.id,
      kind: m.kind,
      refId: m.ref_id,
      name: m.name,
      from: m.from_day,
      to: m.to_day,
    })),
    rowVersion: row.row_version,
  };
};

export type NewPerson = {
  signInName: string;
  name: string;
  email: string;
  from: string;
  departmentId: string | null;
  supervisorId: string | null;
  roleIds: string[];
  groupIds: string[];
  siteId: string | null;
  outside: boolean;
};

/** Enters a person with dated memberships and mails the link by which the first password is set. */
export const addPerson = (app: App, viewer: Viewer, input: NewPerson): Promise<{ id: string; token: string }> =>
  app.command(actorOf(viewer), async (work) => {
    const signInName = input.signInName.trim().toLowerCase();
    if (!NAME.test(signInName) || signInName.startsWith('system.')) throw refused('sign_in_name_invalid');
    const id = newId();
    await store
      .insertPerson(work.trx, {
        id,
        signInName,
        name: input.name,
        email: input.email,
        from: input.from,
        outside: input.outside,
      })
      .catch((error: { constraint?: string }) => {
        throw error.constraint === 'sign_in_name_unique' ? refused('sign_in_name_taken', { name: signInName }) : error;
      });
    await store.keepAddress(work.trx, { personId: id, address: input.email });
    const memberships: [string, string][] = [
      ...(input.departmentId ? [['department', input.departmentId] as [string, string]] : []),
      ...(input.supervisorId ? [['supervisor', input.supervisorId] as [string, string]] : []),
      ...(input.siteId ? [['site', input.siteId] as [string, string]] : []),
      ...input.roleIds.map((roleId) => ['role', roleId] as [string, string]),
      ...input.groupIds.map((groupId) => ['group', groupId] as [string, string]),
    ];
    for (const [kind, refId] of memberships) {
      await ensureRef(work.trx, kind, refId);
      await store.insertMembership(work.trx, { id: newId(), personId: id, kind, refId, from: input.from });
    }
    const units = await store.findPersonRow(work.trx, id, input.from);
    work.record({
      kind: 'person.added',
      subject: { person: { id, name: signInName } },
      payload: {
        name: input.name,
        from: input.from,
        department: units?.department ?? null,
        supervisor: units?.supervisor_name ?? null,
        roles: units?.roles ?? [],
        groups: units?.groups ?? [],
      },
    });
    await syncGroups(work);
    const token = await mailPasswordLink(app, work, { id, name: input.name, signInName }, 'first');
    return { id, token };
  });

const ensureRef = async (trx: Trx, kind: string, refId: string) => {
  if (kind === 'supervisor') {
    const [person] = await store.findNames(trx, [refId]);
    if (!person) throw refused('unit_unknown', { field: 'Supervisor', kind: 'person' });
    return person.name;
  }
  const unit = await store.findUnit(trx, refId);
  if (unit?.kind !== kind) throw refused('unit_unknown', { field: kind.charAt(0).toUpperCase() + kind.slice(1), kind });
  return unit.name;
};

export const changePerson = async (
  app: App,
  viewer: Viewer,
  id: string,
  change: { name: string; email: string; organisationRights: OrganisationRight[]; rowVersion: number },
): Promise<PersonDetail> => {
  const before = await personDetail(app, id);
  const rightsChange = [...before.organisationRights].sort().join() !== [...change.organisationRights].sort().join();
  if (rightsChange && !viewer.organisationRights.has('administer'))
    throw refused('organisation_right_missing', { right: 'administer' });
  if (rightsChange && id === viewer.id && !change.organisationRights.includes('administer'))
    throw refused('own_account');
  await app.command(actorOf(viewer), async (work) => {
    // The printed name of one's own signatures is another's to keep, where there is another one.
    if (id === viewer.id && change.name !== before.name && (await store.countKeepers(work.trx, work.day)) > 1)
      throw refused('own_name');
    if ((await store.changePerson(work.trx, { id, ...change })) === 0) throw refused('changed_meanwhile');
    work.record({
      kind: 'person.changed',
      subject: { person: { id, name: before.signInName } },
      payload: {
        before: { name: before.name, email: before.email, organisationRights: before.organisationRights },
        after: { name: change.name, email: change.email, organisationRights: change.organisationRights },
      },
    });
    if (change.email !== before.email) {
      await store.keepAddress(work.trx, { personId: id, address: change.email });
      await mailAddresses(app, work, [before.email], {
        kind: 'security',
        subject: 'Your mail address was changed',
        lead: `${viewer.name} changed the mail address of ${before.signInName} to ${change.email}. If you did not expect this, notify your security contact.`,
        link: { path: '/', label: 'Open Kanonos' },
      });
    }
  });
  return personDetail(app, id);
};

export const setMembership = async (
  app: App,
  viewer: Viewer,
  id: string,
  input: { kind: store.MembershipRow['kind']; refId: string; from: string },
): Promise<PersonDetail> => {
  const person = await personDetail(app, id);
  await app.command(actorOf(viewer), async (work) => {
    const name = await ensureRef(work.trx, input.kind, input.refId);
    if (input.kind === 'supervisor') {
      if (input.refId === id || (await store.listAbove(work.trx, input.refId, input.from)).includes(id))
        throw refused('supervisor_circle');
    }
    if (input.kind === 'department' || input.kind === 'supervisor' || input.kind === 'site')
      await store.endExclusive(work.trx, { personId: id, ...input });
    await store.insertMembership(work.trx, { id: newId(), personId: id, ...input });
    work.record({
      kind: 'membership.started',
      subject: { person: { id, name: person.signInName } },
      payload: { kind: input.kind, in: name, from: input.from },
    });
    await syncGroups(work);
  });
  return personDetail(app, id);
};

/** Makes a person a member of units from today on, within a command; those of which the person is one already are left out. */
export const joinUnits = async (
  work: UnitOfWork,
  person: { id: string; signInName: string },
  unitIds: readonly string[],
): Promise<void> => {
  const own = new Set((await store.listMemberships(work.trx, person.id)).filter((m) => !m.to_day).map((m) => m.ref_id));
  for (const unitId of unitIds) {
    const unit = await store.findUnit(work.trx, unitId);
    if (!unit || own.has(unitId)) continue;
    await store.insertMembership(work.trx, {
      id: newId(),
      personId: person.id,
      kind: unit.kind,
      refId: unitId,
      from: work.day,
    });
    work.record({
      kind: 'membership.started',
      subject: { person: { id: person.id, name: person.signInName } },
      payload: { kind: unit.kind, in: unit.name, from: work.day },
    });
  }
};

export const endMembership = async (
  app: App,
  viewer: Viewer,
  id: string,
  membershipId: string,
  to: string,
): Promise<PersonDetail> => {
  const person = await personDetail(app, id);
  const membership = person.memberships.find((m) => m.id === membershipId);
  if (!membership) throw refused('not_found');
  if (to < membership.from) throw refused('absence_days');
  await app.command(actorOf(viewer), async (work) => {
    await store.endMembership(work.trx, { id: membershipId, personId: id, to });
    work.record({
      kind: 'membership.ended',
      subject: { person: { id, name: person.signInName } },
      payload: { kind: membership.kind, in: membership.name, to },
    });
    await syncGroups(work);
  });
  return personDetail(app, id);
};

export const deactivate = async (app: App, viewer: Viewer, id: string, reason: string): Promise<PersonDetail> => {
  const person = await personDetail(app, id);
  if (id === viewer.id) throw refused('own_account');
  if (person.state === 'deactivated') throw refused('person_inactive', { who: person.name });
  await app.command(actorOf(viewer), async (work) => {
    await store.setState(work.trx, { id, state: 'deactivated', to: work.day });
    await store.endAllMemberships(work.trx, id, work.day);
    await store.endSessions(work.trx, id);
    await endPrograms(work, person);
    work.record({
      kind: 'person.deactivated',
      subject: { person: { id, name: person.signInName } },
      payload: { reason },
    });
  });
  return personDetail(app, id);
};

/** Starts a reset: voids the password, informs the person by mail; nobody can sign in between (21 CFR 11.300). */
export const resetPerson = async (
  app: App,
  viewer: Viewer,
  id: string,
  reason: string,
): Promise<{ detail: PersonDetail; token: string }> => {
  const person = await personDetail(app, id);
  if (person.state === 'deactivated') throw refused('person_inactive', { who: person.name });
  const token = await app.command(actorOf(viewer), async (work) => {
    await store.setState(work.trx, { id, state: person.state === 'invited' ? 'invited' : 'reset', to: null });
    await store.endSessions(work.trx, id);
    await endPrograms(work, person);
    work.record({
      kind: 'password.reset-started',
      subject: { person: { id, name: person.signInName } },
      payload: { reason },
    });
    return mailPasswordLink(app, work, { id, name: person.name, signInName: person.signInName }, 'reset');
  });
  return { detail: await personDetail(app, id), token };
};

// What other features ask of people.
/** Once a day: who fits a group by rule from today on, or no more. */
export const applyDueGroupRules = async (app: App): Promise<void> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  if (appliedGroups.get(app.db) === day) return;
  await app.command(SYSTEM_CLOCK, syncGroups);
  appliedGroups.set(app.db, day);
};
const appliedGroups = new WeakMap<object, string>();

export const membersOf = async (db: Db | Trx, unitIds: string[], day: string): Promise<Record<string, string[]>> => {
  const members: Record<string, string[]> = {};
  for (const { unit_id, person_id } of unitIds.length ? await store.listMembers(db, unitIds, day) : [])
    members[unit_id] = [...(members[unit_id] ?? []), person_id];
  return members;
};
export const supervisorOf = store.findSupervisor;
export const departmentIdOf = store.findDepartment;
export const teamOf = store.listTeam;
/** Everybody who works in the organisation on a day, by name; not people of outside parties. */
export const everyone = store.listEveryone;
export const namesOf = async (
  db: Db | Trx,
  ids: readonly string[],
): Promise<Map<string, { id: string; name: string; signInName: string; state: string }>> =>
  new Map(
    (ids.length ? await store.findNames(db, [...new Set(ids)]) : []).map((p) => [
      p.id,
      { id: p.id, name: p.name, signInName: p.sign_in_name, state: p.state },
    ]),
  );
export const unitsByIds = async (db: Db | Trx, ids: readonly string[]) =>
  (await store.listUnits(db)).filter((unit) => ids.includes(unit.id));
/** The id of a department as given. @throws RefusalError entry_unknown for an id that is no department */
export const knownDepartment = async (db: Db | Trx, id: string | null): Promise<string | null> => {
  if (id === null) return null;
  const [unit] = await unitsByIds(db, [id]);
  if (unit?.kind !== 'department') throw refused('entry_unknown', { field: 'Department', value: id });
  return unit.id;
};
/** The department of a document: the chosen one, else that of its owner on a day; null where the owner has none. */
export const departmentFor = async (
  db: Db | Trx,
  chosen: string | null,
  ownerId: string,
  day: string,
): Promise<string | null> =>
  (await knownDepartment(db, chosen)) ?? (await store.findDepartment(db, ownerId, day)) ?? null;
export const unitsByCodes = async (db: Db | Trx, kind: Unit['kind'], codes: readonly string[]) =>
  codes.length === 0
    ? []
    : (await store.listUnits(db)).filter((unit) => unit.kind === kind && codes.includes(unit.code));
/** People and memberships with their dates, as the rules of required reading want them. */
export const datedPeople = async (db: Db | Trx, unitIds: string[]) => ({
  people: (await store.listPeopleDates(db)).map((p) => ({
    personId: p.person_id,
    from: p.from,
    ...(p.to ? { to: p.to } : {}),
  })),
  memberships: (unitIds.length ? await store.listMembershipsOf(db, unitIds) : []).map((m) => ({
    personId: m.person_id,
    unitId: m.unit_id,
    from: m.from,
    ...(m.to ? { to: m.to } : {}),
  })),
});
