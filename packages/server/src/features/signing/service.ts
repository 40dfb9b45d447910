import type { SignatureInfo } from '@kanonos/contract';
import {
  asksForName,
  decideSigning,
  LOCK_MINUTES,
  recordDigest,
  signingRecordText,
  WRONG_TRIES_LOCK,
} from '@kanonos/core';
import type { App, Work } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { Refused } from '../../platform/refused.ts';
import { sha256 } from '../../platform/trail/append.ts';
import type { Viewer } from '../access/service.ts';
import { type DocumentRow, type FileRow, filesOf, type RevisionRow, subjectOf } from '../documents/service.ts';
import { notify } from '../mailing/service.ts';
import { actorOf } from '../session/service.ts';
import * as store from './store.ts';

export type { RecordRow, SignatureRow } from './store.ts';
export type Credentials = { name: string | null; password: string | null };

/** The canonical text of what would be signed of a revision as its rows stand. */
export const recordTextOf = (document: DocumentRow, revision: RevisionRow, files: readonly FileRow[]): string =>
  signingRecordText({
    document: document.id,
    number: document.number,
    revision: revision.id,
    label: revision.label,
    changeKind: revision.change_kind,
    files: files.map((file) => ({ role: file.role, name: file.name, sha256: file.sha256 })),
    facts: { ...revision.facts, title: revision.title, reason: revision.reason, summary: revision.summary },
  });

/** Freezes the signing record of a revision: its text is stored and never rebuilt from living data. */
export const freezeRecord = async (
  work: Work,
  document: DocumentRow,
  revision: RevisionRow,
): Promise<store.RecordRow> => {
  const files = revision.latest_version_id ? await filesOf(work.trx, [revision.latest_version_id]) : [];
  const text = recordTextOf(document, revision, files);
  const record = {
    id: newId(),
    revision_id: revision.id,
    digest: recordDigest(text, sha256),
    text,
    frozen_at: work.now,
  };
  await store.insertRecord(work.trx, {
    id: record.id,
    revisionId: revision.id,
    digest: record.digest,
    text,
    now: work.now,
  });
  return record;
};

export const getRecord = store.findRecord;
export const latestRecord = store.findLatestRecord;

export const nameAsked = (app: App, viewer: Viewer, idleMinutes: number): boolean =>
  asksForName(viewer.session?.lastSignedAt ?? undefined, app.clock(), idleMinutes);

/**
 * Checks who signs before the act's own transaction begins: hashing takes time that no lock should be held for. A wrong
 * try is an event of its own; the fifth locks signing for 15 minutes and tells security at once (21 CFR 11.300(d)).
 */
export const checkSigning = async (
  app: App,
  viewer: Viewer,
  credentials: Credentials,
  digests: { frozen: string; seen: string },
  about: Parameters<typeof subjectOf>,
): Promise<void> => {
  const house = await app.house();
  const signer = await store.findSigner(app.db, viewer.id);
  const now = app.clock();
  const locked = signer?.signing_locked_until;
  const isLocked = locked !== null && locked !== undefined && locked > now;
  const refusals = decideSigning({
    nameGiven: credentials.name !== null && credentials.name !== '',
    nameRight: credentials.name?.trim().toLowerCase() === signer?.sign_in_name.toLowerCase(),
    passwordRight: !isLocked && (await app.checkPassword(credentials.password ?? '', signer?.password_hash ?? null)),
    ...(viewer.session?.lastSignedAt ? { lastSignedAt: viewer.session.lastSignedAt } : {}),
    now,
    idleMinutes: house.signingIdleMinutes,
    ...(locked ? { lockedUntil: locked } : {}),
    frozenDigest: digests.frozen,
    seenDigest: digests.seen,
  });
  if (refusals.length === 0) return;
  const wrong = refusals.some((r) => r.code === 'signing_wrong');
  await app.act(actorOf(viewer), async (work) => {
    if (wrong && signer) {
      const locks = signer.signing_wrong + 1 >= WRONG_TRIES_LOCK;
      await store.noteWrong(work.trx, {
        id: viewer.id,
        lockedUntil: locks ? new Date(now.getTime() + LOCK_MINUTES * 60_000) : null,
        reset: locks,
      });
      if (locks) {
        const security = await store.listSecurity(work.trx);
        await notify(
          app,
          work,
          security.map((person) => person.id),
          {
            kind: 'security',
            subject: `Signing locked for ${viewer.signInName}`,
            lead: `${WRONG_TRIES_LOCK} wrong tries to sign as ${viewer.name}. Signing is locked for ${LOCK_MINUTES} minutes.`,
            link: { path: '/trail?kind=signing.refused', words: 'Open the audit trail' },
          },
          true,
        );
        work.record({
          kind: 'signing.locked',
          subject: { person: { id: viewer.id, name: viewer.signInName } },
          payload: { minutes: LOCK_MINUTES },
        });
      }
    }
    work.record({
      kind: 'signing.refused',
      subject: subjectOf(...about),
      payload: { why: refusals.map((r) => r.code) },
    });
  });
  throw new Refused(refusals);
};

export type Signing = {
  record: store.RecordRow;
  meaning: string;
  forPersonId?: string | null;
  assignmentId?: string;
  readingId?: string;
};

/** Writes a signature over a frozen record; the credentials were checked before. */
export const sign = async (work: Work, viewer: Viewer, signing: Signing): Promise<{ id: string; digest: string }> => {
  const id = newId();
  await store.insertSignature(work.trx, {
    id,
    recordId: signing.record.id,
    revisionId: signing.record.revision_id,
    personId: viewer.id,
    printedName: viewer.name,
    meaning: signing.meaning,
    now: work.now,
    zone: work.house.zone,
    method: 'password',
    forPersonId: signing.forPersonId ?? null,
    digest: signing.record.digest,
    assignmentId: signing.assignmentId ?? null,
    readingId: signing.readingId ?? null,
  });
  await store.noteSigned(work.trx, {
    personId: viewer.id,
    tokenHash: viewer.session?.tokenHash ?? null,
    now: work.now,
  });
  return { id, digest: signing.record.digest };
};

/**
 * Whether a signature still binds: its digest is that of the stored record, the record is what the frozen rows say, and
 * the last check of each content found its bytes unchanged.
 */
export const toSignatureInfo = (
  row: store.SignatureRow,
  frozen: { text: string; files: readonly FileRow[] } | undefined,
): SignatureInfo => {
  const intact =
    row.digest === row.record_digest &&
    recordDigest(row.record_text, sha256) === row.digest &&
    (frozen === undefined || (frozen.text === row.record_text && frozen.files.every((file) => !file.check_failed)));
  const days = frozen?.files.map((file) => file.checked_on ?? '').sort() ?? [];
  return {
    id: row.id,
    printedName: row.printed_name,
    meaning: row.meaning,
    at: row.at.toISOString(),
    zone: row.zone,
    forPerson: row.for_name,
    digest: row.digest,
    state: row.void_at ? 'void' : intact ? 'intact' : 'altered',
    checkedOn: days[0] || null,
    voidReason: row.void_reason,
  };
};

/** The signatures of a revision's runs with their state, judged against the rows as they stand. */
export const signaturesOf = async (
  db: Db | Trx,
  document: DocumentRow,
  revision: RevisionRow,
): Promise<(SignatureInfo & { assignmentId: string | null; personId: string })[]> => {
  const signatures = await store.listSignatures(db, [revision.id]);
  if (signatures.length === 0) return [];
  const files = revision.latest_version_id ? await filesOf(db, [revision.latest_version_id]) : [];
  const frozen = { text: recordTextOf(document, revision, files), files };
  // A void signature is judged by its own record alone: the rows have moved on since.
  return signatures.map((row) => ({
    ...toSignatureInfo(row, row.void_at ? undefined : frozen),
    assignmentId: row.assignment_id,
    personId: row.person_id,
  }));
};

export const readingSignature = store.findReadingSignature;
export const voidSignatures = store.voidSignatures;
