import type { AnswerOf, api, BodyInOf } from '@kanonos/contract';
import {
  DEFAULT_CONFIDENTIALITY,
  describedGroupRules,
  type OwnState,
  refusal,
  repeatedOwnStates,
  ruleDifferences,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { getStored } from '../content/index.ts';
import { toEditions } from './editions.ts';
import { syncGroups } from './groupRules.ts';
import { namesInRules } from './store.ts';
import { insertEdition, listEditions } from './storeEditions.ts';
import {
  deleteHolidays,
  findAnyDocument,
  findFallbackApprover,
  findLogo,
  findOrganisation,
  insertHolidays,
  listHolidays,
  listUnitKinds,
  type SettingsRow,
  updateOrganisation,
} from './storeSettings.ts';

type Settings = {
  name: string;
  code: string;
  zone: string;
  week: number[];
  holidays: { day: string; name: string }[];
  signingIdleMinutes: number;
  fallbackApprover: string | null;
  confidentiality: Record<string, readonly string[]>;
  followsNamingRule: boolean;
  colour: string;
  logo: string | null;
  stateWords: Record<string, string>;
  groupRules: { key: string; unitIds: readonly string[] }[];
  signatureMeanings: readonly string[];
  ownStates: readonly OwnState[];
};

const settingsOf = async (db: Db | Trx, row: SettingsRow): Promise<Settings> => ({
  name: row.name,
  code: row.code,
  zone: row.zone,
  week: row.week,
  holidays: await listHolidays(db),
  signingIdleMinutes: row.signing_idle_minutes,
  fallbackApprover: row.approver_sign_in,
  confidentiality: row.confidentiality,
  followsNamingRule: row.follows_naming_rule,
  colour: row.colour,
  logo: row.logo,
  stateWords: row.state_words,
  groupRules: row.group_rules.map(({ groupId, unitIds }) => ({ key: groupId, unitIds })),
  signatureMeanings: row.signature_meanings,
  ownStates: row.own_states,
});

/** Holidays are compared by their day, groups by rule with names. */
const comparable = (settings: Settings, nameOf: (id: string) => string) => ({
  ...settings,
  groupRules: describedGroupRules(settings.groupRules ?? [], nameOf),
  logo: settings.logo && `picture ${settings.logo.slice(0, 8)}`,
  holidays: settings.holidays.map(({ day, name }) => ({ code: day, name })),
  ownStates: (settings.ownStates ?? []).map(({ name, within, unitIds }) => ({
    key: `${name} (${within})`,
    units: unitIds.map(nameOf),
  })),
});

export const organisationSettings = async (app: App): Promise<AnswerOf<typeof api.rules.organisation>> => {
  const row = await findOrganisation(app.db);
  if (!row) throw refused('not_ready');
  const kept = await listEditions(app.db, 'organisation', 'organisation');
  const now = await settingsOf(app.db, row);
  const nameOf = await namesInRules(app.db, kept);
  return {
    name: row.name,
    code: row.code,
    zone: row.zone,
    week: row.week,
    holidays: now.holidays,
    signingIdleMinutes: row.signing_idle_minutes,
    fallbackApprover: row.approver_id ? { id: row.approver_id, name: row.approver_name ?? '' } : null,
    confidentiality: { ...DEFAULT_CONFIDENTIALITY, ...row.confidentiality } as AnswerOf<
      typeof api.rules.organisation
    >['confidentiality'],
    followsNamingRule: row.follows_naming_rule,
    colour: row.colour,
    logo: row.logo !== null,
    stateWords: row.state_words,
    groupRules: row.group_rules.map(({ groupId, unitIds }) => ({ groupId, unitIds: [...unitIds] })),
    signatureMeanings: row.signature_meanings,
    ownStates: row.own_states.map((one) => ({ ...one, unitIds: [...one.unitIds] })),
    rowVersion: row.row_version,
    editions: toEditions(kept, (earlier, later) =>
      ruleDifferences(comparable(earlier as Settings, nameOf), comparable(later as Settings, nameOf)),
    ),
  };
};

/** An uploaded picture for mails and cover pages; null removes it. */
const logoOf = async (app: App, work: UnitOfWork, viewer: Viewer, uploadId: string | null): Promise<string | null> => {
  if (uploadId === null) return null;
  const upload = await getStored(app, work.trx, viewer, uploadId);
  if (!/^image\/(png|jpeg)$/.test(upload.media_type) || upload.size > 500_000) throw refused('logo_wrong');
  return upload.sha256;
};

/** A rule fills a group, from units that are none themselves. */
const ensureGroupRules = async (trx: Trx, rules: Settings['groupRules']): Promise<void> => {
  const named = [...new Set(rules.flatMap(({ key, unitIds }) => [key, ...unitIds]))];
  const units = await listUnitKinds(trx, {
    named,
  });
  const kindOf = (id: string) => units.find((unit) => unit.id === id)?.kind;
  for (const { key, unitIds } of rules)
    if (kindOf(key) !== 'group' || unitIds.length === 0 || unitIds.some((id) => (kindOf(id) ?? 'group') === 'group'))
      throw refused('group_rule_wrong');
};

/** The picture of the organisation, for mails. */
export const organisationLogo = async (app: App) => findLogo(app.db);

/** Days are counted in the zone of the organisation, so it stays once a document is registered. */
const ensureZoneFree = async (trx: Trx, before: string, after: string): Promise<void> => {
  if (after === before) return;
  if (await findAnyDocument(trx)) throw refused('zone_fixed', { zone: before });
};

/** Changes the settings of the whole organisation. Its code begins the numbers of later types; given numbers stay. */
export const changeOrganisation = (
  app: App,
  viewer: Viewer,
  input: BodyInOf<typeof api.rules.changeOrganisation>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const { trx } = work;
    const row = await findOrganisation(trx);
    if (!row) throw refused('not_ready');
    const days = input.holidays.map((holiday) => holiday.day);
    assertAllowed(days.filter((day, i) => days.indexOf(day) < i).map((day) => refusal('holiday_twice', { day })));
    const approver = input.fallbackApproverId
      ? await findFallbackApprover(trx, { id: input.fallbackApproverId })
      : undefined;
    if (input.fallbackApproverId && !approver) throw refused('not_found');
    if (approver?.state === 'deactivated') throw refused('person_inactive', { who: approver.name });
    const before = await settingsOf(trx, row);
    await ensureZoneFree(trx, row.zone, input.zone ?? row.zone);
    const after: Settings = {
      name: input.name,
      code: input.code ?? before.code,
      zone: input.zone ?? before.zone,
      week: [...new Set(input.week)].sort(),
      holidays: [...input.holidays].sort((a, b) => (a.day < b.day ? -1 : 1)),
      signingIdleMinutes: input.signingIdleMinutes,
      fallbackApprover: approver?.sign_in_name ?? null,
      confidentiality: input.confidentiality ?? before.confidentiality,
      followsNamingRule: input.followsNamingRule ?? before.followsNamingRule,
      colour: input.colour ?? before.colour,
      logo: input.logoUploadId === undefined ? before.logo : await logoOf(app, work, viewer, input.logoUploadId),
      stateWords: Object.fromEntries(
        Object.entries(input.stateWords ?? before.stateWords).filter(([, word]) => word.trim() !== ''),
      ),
      groupRules: (input.groupRules ?? row.group_rules).map(({ groupId, unitIds }) => ({ key: groupId, unitIds })),
      signatureMeanings: [...new Set(input.signatureMeanings ?? before.signatureMeanings)],
      ownStates: input.ownStates ?? before.ownStates,
    };
    assertAllowed(repeatedOwnStates(after.ownStates).map((name) => refusal('own_state_twice', { name })));
    await ensureGroupRules(work.trx, after.groupRules);
    const nameOf = await namesInRules(trx, before.groupRules, after.groupRules, before.ownStates, after.ownStates);
    const differences = ruleDifferences(comparable(before, nameOf), comparable(after, nameOf));
    if (differences.length === 0) throw refused('nothing_changed');
    const [changed] = await updateOrganisation(trx, {
      name: after.name,
      code: after.code,
      zone: after.zone,
      week: after.week,
      minutes: after.signingIdleMinutes,
      approver: input.fallbackApproverId,
      confidentiality: JSON.stringify(after.confidentiality),
      followsNamingRule: after.followsNamingRule,
      colour: after.colour,
      logo: after.logo,
      stateWords: JSON.stringify(after.stateWords),
      groupRules: JSON.stringify(after.groupRules.map(({ key, unitIds }) => ({ groupId: key, unitIds }))),
      signatureMeanings: JSON.stringify(after.signatureMeanings),
      ownStates: JSON.stringify(after.ownStates),
      rowVersion: input.rowVersion,
    });
    if (!changed) throw refused('changed_meanwhile');
    await syncGroups(work);
    await deleteHolidays(trx);
    await insertHolidays(trx, { holidays: JSON.stringify(after.holidays) });
    if ((await listEditions(trx, 'organisation', 'organisation')).length === 0)
      await insertEdition(trx, {
        kind: 'organisation',
        subjectId: 'organisation',
        value: before,
        reason: 'First edition',
        by: null,
        now: work.now,
      });
    await insertEdition(trx, {
      kind: 'organisation',
      subjectId: 'organisation',
      value: after,
      reason: input.reason,
      by: viewer.id,
      now: work.now,
    });
    work.record({ kind: 'organisation.changed', subject: {}, payload: { differences, reason: input.reason } });
    work.afterCommit(app.forgetOrganisation);
  });
