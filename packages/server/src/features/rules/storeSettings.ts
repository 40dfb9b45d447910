import type { ConfidentialityRules, OwnState } from '@kanonos/core';
import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import type { GroupRule } from './storeGroups.ts';

export type SettingsRow = {
  name: string;
  code: string;
  zone: string;
  week: number[];
  signing_idle_minutes: number;
  approver_id: string | null;
  approver_name: string | null;
  approver_sign_in: string | null;
  row_version: number;
  confidentiality: ConfidentialityRules;
  follows_naming_rule: boolean;
  colour: string;
  logo: string | null;
  state_words: Record<string, string>;
  group_rules: GroupRule[];
  signature_meanings: string[];
  own_states: OwnState[];
};

export const findOrganisation = (db: Db | Trx) =>
  firstRow<SettingsRow>(
    db,
    `select h.name, h.code, h.zone, h.week, h.signing_idle_minutes, h.row_version, h.confidentiality, h.follows_naming_rule, h.colour, h.logo, h.state_words, h.group_rules, h.signature_meanings, h.own_states, p.id as approver_id, p.name as approver_name, p.sign_in_name as approver_sign_in
     from organisation h left join people p on p.id = h.fallback_approver`,
  );

export const listHolidays = (db: Db | Trx) =>
  rows<{ day: string; name: string }>(db, 'select day, name from holidays order by day');

export const listUnitKinds = (db: Trx, given: { named: string[] }) =>
  rows<{ id: string; kind: string }>(db, 'select id, kind from units where id = any(:named::uuid[])', given);

export const findLogo = (db: Db | Trx) =>
  firstRow<{ sha256: string; size: number; media_type: string }>(
    db,
    'select c.sha256, c.size, c.media_type from organisation h join contents c on c.sha256 = h.logo',
  );

export const findAnyDocument = (db: Trx) => firstRow(db, 'select 1 from documents limit 1');

export const findFallbackApprover = (db: Trx, given: { id: string }) =>
  firstRow<{ sign_in_name: string; name: string; state: string }>(
    db,
    'select sign_in_name, name, state from people where id = :id',
    given,
  );

export const updateOrganisation = (
  db: Trx,
  given: {
    name: string;
    code: string;
    zone: string;
    week: number[];
    minutes: number;
    approver: string | null;
    confidentiality: string;
    followsNamingRule: boolean;
    colour: string;
    logo: string | null;
    stateWords: string;
    groupRules: string;
    signatureMeanings: string;
    ownStates: string;
    rowVersion: number;
  },
) =>
  rows(
    db,
    `update organisation set name = :name, code = :code, zone = :zone, week = :week::int[], signing_idle_minutes = :minutes, fallback_approver = :approver, confidentiality = :confidentiality::jsonb, follows_naming_rule = :followsNamingRule,
         colour = :colour, logo = :logo, state_words = :stateWords::jsonb, group_rules = :groupRules::jsonb, signature_meanings = :signatureMeanings::jsonb, own_states = :ownStates::jsonb, row_version = row_version + 1
       where row_version = :rowVersion returning id`,
    given,
  );

export const deleteHolidays = (db: Trx) => rows(db, 'delete from holidays');

export const insertHolidays = (db: Trx, given: { holidays: string }) =>
  rows(
    db,
    'insert into holidays (day, name) select h.day, h.name from jsonb_to_recordset(:holidays::jsonb) h(day date, name text)',
    given,
  );
