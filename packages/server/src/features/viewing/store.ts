import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';

export type RenditionKind = 'pages' | 'sheets' | 'small';
export type RenditionRow = {
  sha256: string;
  kind: RenditionKind;
  state: 'waiting' | 'done' | 'failed';
  result_sha256: string | null;
  tries: number;
  why: string | null;
};
export const findRendition = (db: Db | Trx, by: { sha256: string; kind: RenditionKind }) =>
  firstRow<RenditionRow>(db, 'select * from renditions where sha256 = :sha256 and kind = :kind', by);
/** Asks for it where nobody has; true where it is new. */
export const askRendition = async (
  trx: Trx,
  by: { sha256: string; kind: RenditionKind; now: Date },
): Promise<boolean> =>
  (
    await rows(
      trx,
      `insert into renditions (sha256, kind, state, asked_at) values (:sha256, :kind, 'waiting', :now) on conflict do nothing returning sha256`,
      by,
    )
  ).length > 0;
export const waitingKinds = (db: Db) =>
  rows<{ kind: RenditionKind }>(db, `select distinct kind from renditions where state = 'waiting'`);
/** What failed waits again, as often as it may be tried; answers how many. */
export const waitAgain = (trx: Trx, by: { tries: number }) =>
  changed(trx, `update renditions set state = 'waiting', why = null where state = 'failed' and tries < :tries`, by);
/** Some that wait and that nobody else has in hand, held until the transaction ends. */
export const takeWaiting = (trx: Trx, by: { kind: RenditionKind; limit: number }) =>
  rows<{ sha256: string; media_type: string; size: number; tries: number }>(
    trx,
    `select r.sha256, c.media_type, c.size, r.tries from renditions r join contents c on c.sha256 = r.sha256
     where r.kind = :kind and r.state = 'waiting' order by r.asked_at limit :limit for update of r skip locked`,
    by,
  );
export const endRendition = (
  trx: Trx,
  by: { sha256: string; kind: RenditionKind; state: string; result: string | null; why: string | null; now: Date },
) =>
  rows(
    trx,
    `update renditions set state = :state, result_sha256 = :result, why = :why, made_at = :now, tries = tries + 1
     where sha256 = :sha256 and kind = :kind`,
    by,
  );
export const saveScan = (trx: Trx, by: { sha256: string; language: string; confidence: number; pages: number }) =>
  rows(
    trx,
    `insert into scans (sha256, language, confidence, pages) values (:sha256, :language, :confidence, :pages)
     on conflict (sha256) do update set language = excluded.language, confidence = excluded.confidence, pages = excluded.pages`,
    by,
  );
export const findScan = (db: Db, sha256: string) =>
  firstRow<{ language: string; confidence: number; pages: number }>(
    db,
    'select language, confidence, pages from scans where sha256 = :sha256',
    { sha256 },
  );
