import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

/** The names of people and units by id. */
export const namesOf = async (db: Db | Trx, ids: readonly string[]): Promise<Map<string, string>> =>
  new Map(
    (
      await rows<{ id: string; name: string }>(
        db,
        'select id, name from people where id = any(:ids::uuid[]) union all select id, name from units where id = any(:ids::uuid[])',
        { ids: [...ids] },
      )
    ).map(({ id, name }) => [id, name]),
  );

/** A person who may be seen as: not one who was deactivated. */
export const findPerson = (db: Db | Trx, id: string) =>
  firstRow<{ id: string; sign_in_name: string; name: string }>(
    db,
    `select id, sign_in_name, name from people where id = :id and state <> 'deactivated'`,
    { id },
  );

/** Lets the person of a session see the application as another one, or as oneself again. */
export const setSeesAs = (trx: Trx, tokenHash: string, personId: string | null): Promise<number> =>
  changed(trx, 'update sessions set sees_as_id = :personId where token_hash = :tokenHash', { tokenHash, personId });
