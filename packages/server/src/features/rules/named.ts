import type { Db, Trx } from '../../platform/db/connect.ts';
import { rows } from '../../platform/db/connect.ts';

const ID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;

/**
 * Names of the people and units that rules speak of by their ids, in one query; what is neither, or is gone, stays as it is.
 *
 * @param rules whatever holds the ids, in any depth
 */
export const namesInRules = async (db: Db | Trx, ...rules: readonly unknown[]): Promise<(id: string) => string> => {
  const ids = [...new Set(JSON.stringify(rules).match(ID) ?? [])];
  const named = ids.length
    ? await rows<{ id: string; name: string }>(
        db,
        `select id, name from units where id = any(:ids::uuid[])
         union all select id, name from people where id = any(:ids::uuid[])`,
        { ids },
      )
    : [];
  const names = new Map(named.map(({ id, name }) => [id, name]));
  return (id) => names.get(id) ?? id;
};
