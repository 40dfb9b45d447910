import type { Right } from '@kanonos/core';
import { type Db, rows, type Trx } from '../../platform/db/connect.ts';

export const listOrganisations = (db: Trx) => rows(db, 'select 1 from organisation');

export const insertOrganisation = (
  db: Trx,
  given: { name: string; code: string; zone: string; demo: boolean; demoPassword: string | null },
) =>
  rows(
    db,
    `insert into organisation (name, code, zone, demo, demo_password, setup) values (:name, :code, :zone, :demo, :demoPassword, 'loading')`,
    given,
  );

export const insertHoliday = (db: Trx, given: { day: string; name: string }) =>
  rows(db, 'insert into holidays (day, name) values (:day, :name)', given);

export const insertUnit = (db: Trx, given: { id: string; kind: string; code: string; name: string }) =>
  rows(db, 'insert into units (id, kind, code, name) values (:id, :kind, :code, :name)', given);

export const insertGrant = (
  db: Trx,
  given: {
    id: string;
    folder: string;
    kind: string;
    subject: string | null;
    rights: Right[];
  },
) =>
  rows(
    db,
    `insert into grants (id, folder_id, subject_kind, subject_id, rights) values (:id, :folder, :kind, :subject, :rights::text[])`,
    given,
  );

export const insertCounter = (db: Trx, given: { scope: string; last: number }) =>
  rows(db, 'insert into counters (scope, last, started_at) values (:scope, :last, :last)', given);

export const insertFolder = (
  db: Trx,
  given: {
    id: string;
    parent: string | null;
    name: string;
    code: string | null;
    area: string | undefined;
    path: string[];
    sort: number;
    metadata: string;
  },
) =>
  rows(
    db,
    'insert into folders (id, parent_id, name, code, area_id, path, sort, metadata) values (:id, :parent, :name, :code, :area, :path::uuid[], :sort, :metadata::jsonb)',
    given,
  );

export const setSetupDone = (db: Db | Trx) => rows(db, `update organisation set setup = 'done'`);
