import type { OrganisationRight } from '@kanonos/core';
import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

/** What of the first steps can be seen from the data. */
export const findProgress = async (db: Db) =>
  (await firstRow<{
    first_steps: string;
    organisation: boolean;
    administrator: boolean;
    configuration: boolean;
    people: boolean;
    mail: boolean;
    documents: boolean;
  }>(
    db,
    `select first_steps,
       exists (select 1 from rule_editions where kind = 'organisation') as organisation,
       not exists (select 1 from people where email = '' and state <> 'deactivated' and not outside) as administrator,
       exists (select 1 from types) as configuration,
       (select count(*) > 1 from people) as people,
       exists (select 1 from mails where kind = 'test' and state = 'sent') as mail,
       exists (select 1 from documents) as documents
     from organisation`,
  )) ?? undefined;

export const setFirstSteps = (db: Db | Trx, state: 'open' | 'done') =>
  rows(db, 'update organisation set first_steps = :state', { state });

export const setUnitRights = (trx: Trx, unitId: string, rights: readonly OrganisationRight[]) =>
  rows(trx, 'update units set organisation_rights = :rights::text[] where id = :unitId', {
    unitId,
    rights: [...rights],
  });

export const listUnits = (trx: Trx) =>
  rows<{ id: string; kind: string; code: string }>(trx, 'select id, kind, code from units');

/** The first administrator, without a password and, until the first steps, without a mail address. */
export const insertFounder = (db: Db | Trx, founder: { id: string; signInName: string; name: string; from: string }) =>
  rows(
    db,
    `insert into people (id, sign_in_name, name, email, from_day, organisation_rights) values (:id, :signInName, :name, '', :from, '{administer,people,audit,security}')`,
    founder,
  );
