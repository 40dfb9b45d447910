import type { RevisionState } from '@kanonos/core';
import { changed, type Db, firstRow, rows, type Trx } from '../../platform/db/connect.ts';
import type { SignatureInPdf } from '../../platform/seal/signaturesInPdf.ts';
import type { Asked } from '../../platform/signing/service.ts';

export type Signers = (Asked['signers'][number] & { mail: string })[];
export type OutsideRow = {
  id: string;
  document_id: string;
  revision_id: string;
  label: string;
  revision_state: RevisionState;
  number: string;
  title: string;
  how: 'sent' | 'brought';
  state: 'waiting' | 'signed' | 'declined' | 'cancelled';
  signers: Signers;
  note: string;
  by_id: string;
  by_name: string;
  at: Date;
  sent_sha256: string | null;
  reference: string | null;
  name: string | null;
  sha256: string | null;
  signatures: SignatureInPdf[] | null;
  ended_at: Date | null;
  why: string;
};
const OUTSIDE = `select o.*, r.label, r.state as revision_state, r.title, d.number, p.name as by_name from signed_outside o
  join revisions r on r.id = o.revision_id join documents d on d.id = o.document_id join people p on p.id = o.by_id`;

export const listOf = (db: Db | Trx, documentId: string) =>
  rows<OutsideRow>(db, `${OUTSIDE} where o.document_id = :documentId order by o.at desc`, { documentId });
export const find = (db: Db | Trx, id: string) => firstRow<OutsideRow>(db, `${OUTSIDE} where o.id = :id`, { id });
export const lock = (trx: Trx, id: string) =>
  rows(trx, 'select 1 from signed_outside where id = :id for update', { id });
export const listWaiting = (db: Db) =>
  rows<OutsideRow>(db, `${OUTSIDE} where o.state = 'waiting' order by o.at limit 200`, {});

export type NewOutside = {
  id: string;
  documentId: string;
  revisionId: string;
  how: 'sent' | 'brought';
  state: 'waiting' | 'signed';
  signers: Signers;
  note: string;
  by: string;
  now: Date;
  sentSha256: string | null;
  name: string | null;
  sha256: string | null;
  signatures: readonly SignatureInPdf[] | null;
};
export const insert = (trx: Trx, { signers, signatures, ...row }: NewOutside) =>
  rows(
    trx,
    `insert into signed_outside (id, document_id, revision_id, how, state, signers, note, by_id, at, sent_sha256, name, sha256, signatures, ended_at)
     values (:id, :documentId, :revisionId, :how, :state, :signers::jsonb, :note, :by, :now, :sentSha256, :name, :sha256, :signatures::jsonb,
       case when :state = 'signed' then :now::timestamptz end)`,
    { ...row, signers: JSON.stringify(signers), signatures: signatures && JSON.stringify(signatures) },
  );
export const setReference = (trx: Trx, of: { id: string; reference: string }) =>
  changed(trx, `update signed_outside set reference = :reference where id = :id and reference is null`, of);
export const setSigners = (trx: Trx, of: { id: string; signers: Signers }) =>
  changed(trx, `update signed_outside set signers = :signers::jsonb where id = :id and state = 'waiting'`, {
    ...of,
    signers: JSON.stringify(of.signers),
  });
export const end = (
  trx: Trx,
  of: {
    id: string;
    state: 'signed' | 'declined' | 'cancelled';
    now: Date;
    why: string;
    name?: string;
    sha256?: string;
    signatures?: readonly SignatureInPdf[];
  },
) =>
  changed(
    trx,
    `update signed_outside set state = :state, ended_at = :now, why = :why, name = :name, sha256 = :sha256, signatures = :signatures::jsonb
     where id = :id and state = 'waiting'`,
    {
      ...of,
      name: of.name ?? null,
      sha256: of.sha256 ?? null,
      signatures: of.signatures ? JSON.stringify(of.signatures) : null,
    },
  );
