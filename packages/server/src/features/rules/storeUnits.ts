import type { ConfigurationPackage } from '@kanonos/contract';
import { type Db, rows, type Trx } from '../../platform/db/connect.ts';

export const listUnits = (db: Db | Trx) => rows<Unit>(db, 'select id, kind, code, name from units order by kind, code');

export const listPeople = (db: Db | Trx) =>
  rows<{ id: string; name: string }>(db, `select id, 'person/' || sign_in_name as name from people`);

export type Unit = { id: string; kind: ConfigurationPackage['units'][number]['kind']; code: string; name: string };

export const upsertUnit = (db: Trx, given: { kind: string; code: string; name: string; id: string }) =>
  rows(
    db,
    `insert into units (id, kind, code, name) values (:id, :kind, :code, :name) on conflict (kind, code) do update set name = excluded.name`,
    given,
  );
