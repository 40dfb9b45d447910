import { type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export const insertRoundDocuments = (trx: Trx, roundId: string, documentIds: readonly string[]) =>
  rows(
    trx,
    `insert into round_documents (round_id, document_id, n) select :roundId, u.id, u.n from unnest(:documentIds::uuid[]) with ordinality as u(id, n) on conflict do nothing`,
    { roundId, documentIds },
  );
export const insertRoundFile = (
  trx: Trx,
  file: { id: string; roundId: string; n: number; name: string; sha256: string },
) =>
  rows(trx, 'insert into round_files (id, round_id, n, name, sha256) values (:id, :roundId, :n, :name, :sha256)', file);

export const listRoundDocuments = (db: Db | Trx, roundIds: readonly string[]) =>
  rows<{ round_id: string; id: string; number: string }>(
    db,
    `select x.round_id, d.id, d.number from round_documents x join documents d on d.id = x.document_id
     where x.round_id = any(:roundIds::uuid[]) and d.removed_at is null order by x.round_id, x.n`,
    { roundIds },
  );
export const listRoundFiles = (db: Db | Trx, roundIds: readonly string[]) =>
  rows<{ round_id: string; id: string; name: string }>(
    db,
    'select round_id, id, name from round_files where round_id = any(:roundIds::uuid[]) order by round_id, n',
    { roundIds },
  );
export const findRoundFile = (db: Db | Trx, id: string) =>
  firstRow<{
    document_id: string;
    revision_id: string;
    name: string;
    sha256: string;
    size: number;
    media_type: string;
  }>(
    db,
    `select u.document_id, u.revision_id, f.name, c.sha256, c.size, c.media_type
     from round_files f join rounds u on u.id = f.round_id join contents c on c.sha256 = f.sha256 where f.id = :id`,
    { id },
  );
