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
/** Waiting renditions in order of request, by renditions_waiting. */
export const listWaiting = (db: Db, limit: number) =>
  rows<{ kind: RenditionKind; sha256: string }>(
    db,
    `select kind, sha256 from renditions where state = 'waiting' order by asked_at limit :limit`,
    { limit },
  );
/** Those of some contents that still wait. */
export const findWaiting = (db: Db, by: { kind: RenditionKind; hashes: readonly string[] }) =>
  rows<{ sha256: string; media_type: string; size: number }>(
    db,
    `select r.sha256, c.media_type, c.size from renditions r join contents c on c.sha256 = r.sha256
     where r.kind = :kind and r.state = 'waiting' and r.sha256 = any(:hashes::text[]) order by r.asked_at`,
    by,
  );
/** What failed waits again, as often as it may be tried; answers how many. */
export const waitAgain = (trx: Trx, by: { tries: number }) =>
  changed(trx, `update renditions set state = 'waiting', why = null where state = 'failed' and tries < :tries`, by);
export const endRendition = (
  trx: Trx,
  by: { sha256: string; kind: RenditionKind; state: string; result: string | null; why: string | null; now: Date },
) =>
  rows(
    trx,
    `update renditions set state = :state, result_sha256 = :result, why = :why, made_at = :now, tries = tries + 1
     where sha256 = :sha256 and kind = :kind and state = 'waiting'`,
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
