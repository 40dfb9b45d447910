import type { SignatureInfo } from '@kanonos/contract';
import {
  asksForName,
  decideSigning,
  LOCK_MINUTES,
  recordDigest,
  signatureFault,
  signatureSeal,
  signingRecordText,
  statementOf,
  WRONG_TRIES_LOCK,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import { sha256 } from '../../platform/trail/append.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import type { DocumentRow } from '../documents/index.ts';
import { subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { type FileRow, findRevision, listFiles, type RevisionRow } from '../revisions/index.ts';
import { openedHashes } from '../usage/index.ts';
import * as store from './store.ts';

export type { RecordRow, SignatureRow } from './store.ts';
export type Credentials = { name: string | null; password: string | null };

let proved: (personId: string, seen: ReadonlySet<string>) => CheckedSigning;
let isProof: (value: object) => boolean;

/** The canonical text that a signature on a revision would cover now. */
export const recordTextOf = (document: DocumentRow, revision: RevisionRow, files: readonly FileRow[]): string =>
  signingRecordText({
    document: document.id,
    number: document.number,
    revision: revision.id,
    label: revision.label,
    changeKind: revision.change_kind,
    files: files.map((file) => ({ role: file.role, name: file.name, sha256: file.sha256 })),
    metadata: { ...revision.metadata, title: revision.title, reason: revision.reason, summary: revision.summary },
  });

/** The digest that a signature on a revision would cover now, for the person about to sign. */
export const digestToSign = async (db: Db | Trx, document: DocumentRow, revision: RevisionRow): Promise<string> =>
  recordDigest(await recordTextNow(db, document, revision), sha256);

/** The canonical text that a record of a revision would have if it were frozen now. */
export const recordTextNow = async (db: Db | Trx, document: DocumentRow, revision: RevisionRow): Promise<string> => {
  const files = revision.latest_version_id ? await listFiles(db, [revision.latest_version_id]) : [];
  return recordTextOf(document, revision, files);
};

/** Refuses to decide on a revision whose files this person has not all opened. */
export const ensureAllOpened = async (
  db: Db | Trx,
  viewer: Viewer,
  documentId: string,
  revisionId: string,
): Promise<void> => {
  const revision = await findRevision(db, revisionId);
  const files = await filesToOpen(db, viewer, documentId, revision?.latest_version_id ?? null);
  assertNoneLeft(files.filter((file) => !file.opened));
};

const assertNoneLeft = (missing: readonly { name: string }[]): void => {
  if (missing.length > 0)
    throw refused('files_not_opened', { files: missing.map((file) => file.name).join(', '), count: missing.length });
};

/** The files that a signature would bind, each with whether this person has opened it. */
export const filesToOpen = async (
  db: Db | Trx,
  viewer: Viewer,
  documentId: string,
  versionId: string | null,
): Promise<{ id: string; name: string; opened: boolean }[]> => {
  const files = versionId ? await listFiles(db, [versionId]) : [];
  const hashes = files.map((file) => file.sha256);
  const opened = await openedHashes(db, { personId: viewer.id, documentId, hashes });
  return files.map((file) => ({ id: file.id, name: file.name, opened: opened.has(file.sha256) }));
};

/** Freezes the signing record of a revision: its text is stored and never rebuilt from living data. */
export const freezeRecord = async (
  work: UnitOfWork,
  document: DocumentRow,
  revision: RevisionRow,
): Promise<store.RecordRow> => {
  const text = await recordTextNow(work.trx, document, revision);
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

export const nameAssignees = (app: App, viewer: Viewer, idleMinutes: number): boolean =>
  asksForName(viewer.session?.lastSignedAt ?? undefined, app.clock(), idleMinutes);

/**
 * Proof that somebody has given their credentials for the records that they saw, one or several. It is made by `checkSigning` alone,
 * and `sign` asks for it: without it there is no signature.
 */
export class CheckedSigning {
  readonly personId: string;
  /** The digests of the records that the signer saw. */
  readonly seen: ReadonlySet<string>;
  #made = true;
  private constructor(personId: string, seen: ReadonlySet<string>) {
    this.personId = personId;
    this.seen = seen;
  }
  static {
    proved = (personId, seen) => new CheckedSigning(personId, seen);
    isProof = (value) => #made in value && value.#made;
  }
}

/**
 * Checks who signs before the command's own transaction begins: hashing takes time that no lock should be held for. The try is counted
 * before the password is looked at, in one guarded statement, so that simultaneous tries are not all judged. A wrong one is an
 * event of its own; the fifth locks signing for 15 minutes and tells security at once (21 CFR 11.300(d)).
 *
 * @param seen the digest of the record that the signer saw, or of each of several; `sign` refuses every other one
 * @returns what `sign` asks for
 */
export const checkSigning = async (
  app: App,
  viewer: Viewer,
  credentials: Credentials,
  seen: string | null | undefined | readonly (string | null)[],
  about: Parameters<typeof subjectOf>,
): Promise<CheckedSigning> => {
  const organisation = await app.organisation();
  const now = app.clock();
  const lockUntil = new Date(now.getTime() + LOCK_MINUTES * 60_000);
  const tried = await store.countTry(app.db, { id: viewer.id, now, most: WRONG_TRIES_LOCK });
  const signer = await store.findSigner(app.db, viewer.id);
  const isLocked = tried === undefined;
  const locked = isLocked
    ? ((await store.lockSigning(app.db, { id: viewer.id, until: lockUntil })) ?? lockUntil)
    : undefined;
  const refusals = decideSigning({
    nameGiven: credentials.name !== null && credentials.name !== '',
    nameRight: credentials.name?.trim().toLowerCase() === signer?.sign_in_name.toLowerCase(),
    passwordRight: !isLocked && (await app.checkPassword(credentials.password ?? '', signer?.password_hash ?? null)),
    ...(viewer.session?.lastSignedAt ? { lastSignedAt: viewer.session.lastSignedAt } : {}),
    now,
    idleMinutes: organisation.signingIdleMinutes,
    ...(locked ? { lockedUntil: locked } : {}),
    // Which record it is, is compared under the lock.
    frozenDigest: '',
    seenDigest: '',
  });
  const wrong = refusals.some((r) => r.code === 'signing_wrong');
  if (!wrong && !isLocked) await store.takeBackTry(app.db, viewer.id);
  if (refusals.length === 0) {
    const digests = [seen ?? []].flat().filter((one): one is string => Boolean(one));
    if (digests.length === 0) throw refused('record_changed');
    return proved(viewer.id, new Set(digests));
  }
  await app.command(actorOf(viewer), async (work) => {
    if (wrong && tried !== undefined && tried >= WRONG_TRIES_LOCK) {
      await store.lockSigning(work.trx, { id: viewer.id, until: lockUntil });
      const security = await store.listSecurity(work.trx, work.day);
      await notify(
        app,
        work,
        security.map((person) => person.id),
        {
          kind: 'security',
          subject: `Signing locked for ${viewer.signInName}`,
          lead: `${WRONG_TRIES_LOCK} failed attempts to sign as ${viewer.name}. Signing is locked for ${LOCK_MINUTES} minutes.`,
          link: { path: '/trail?kind=signing.refused', label: 'Open the audit trail' },
        },
        true,
      );
      work.record({
        kind: 'signing.locked',
        subject: { person: { id: viewer.id, name: viewer.signInName } },
        payload: { minutes: LOCK_MINUTES },
      });
    }
    work.record({
      kind: 'signing.refused',
      subject: subjectOf(...about),
      payload: { why: refusals },
    });
  });
  throw new RefusalError(refusals);
};

export type Signing = {
  /** What is signed, read under the lock. */
  record: store.RecordRow;
  checked: CheckedSigning | undefined;
  meaning: string;
  forPersonId?: string | null;
  assignmentId?: string;
  readingId?: string;
};

/** The signature in the payload of its event. */
export type Signed = { signature: string; digest: string; seal: string; meaning: string };

/**
 * Writes a signature over a frozen record, under the lock of the command: the record is the one that the signer saw, and its stored
 * bytes are read again. A head of the trail follows soon, so that a trail cut after a signature is detected.
 *
 * @returns the part of the command's event about the signature
 */
export const sign = async (app: App, work: UnitOfWork, viewer: Viewer, signing: Signing): Promise<Signed> => {
  const { record, checked, meaning } = signing;
  await ensureMaySign(app, work.trx, viewer, record, checked).catch((error) => noteRefused(app, viewer, record, error));
  const id = newId();
  const statement = {
    id,
    digest: record.digest,
    revision: record.revision_id,
    person: viewer.id,
    printedName: viewer.name,
    meaning,
    at: work.now.toISOString(),
    zone: work.organisation.zone,
    method: 'password',
    for: signing.forPersonId ?? null,
    assignment: signing.assignmentId ?? null,
    reading: signing.readingId ?? null,
  };
  const seal = signatureSeal(statement, sha256);
  await store.insertSignature(work.trx, { ...statement, recordId: record.id, now: work.now, seal });
  await store.noteSigned(work.trx, {
    personId: viewer.id,
    tokenHash: viewer.session?.tokenHash ?? null,
    now: work.now,
  });
  await app.jobs.enqueue(work.trx, 'trail.head', {});
  return { signature: id, digest: record.digest, seal, meaning };
};

const ensureMaySign = async (
  app: App,
  trx: Trx,
  viewer: Viewer,
  record: store.RecordRow,
  checked: CheckedSigning | undefined,
): Promise<void> => {
  if (!checked || !isProof(checked) || checked.personId !== viewer.id) throw refused('signing_needs_password');
  if (!checked.seen.has(record.digest)) throw refused('record_changed');
  await ensureBytes(app, record);
  await ensureOpened(trx, viewer, record);
};

/** A refused signing is an event, in a transaction of its own, because the command's is rolled back. */
const noteRefused = async (app: App, viewer: Viewer, record: store.RecordRow, error: unknown): Promise<never> => {
  if (error instanceof RefusalError) {
    const { document, number, revision, label } = filesOfRecord(record);
    await app.command(actorOf(viewer), async (work) =>
      work.record({
        kind: 'signing.refused',
        subject: subjectOf({ id: document, number }, { id: revision, label }),
        payload: { why: [...error.refusals] },
      }),
    );
  }
  throw error;
};

/** The files that a record binds. */
export const filesOfRecord = (record: Pick<store.RecordRow, 'text'>) =>
  JSON.parse(record.text) as {
    document: string;
    number: string;
    revision: string;
    label: string;
    files: { role: string; name: string; sha256: string }[];
  };

/** Nobody signs what they have not seen: the record shows that the signer opened every file that the signature binds. */
const ensureOpened = async (trx: Trx, viewer: Viewer, record: store.RecordRow): Promise<void> => {
  const { document, files } = filesOfRecord(record);
  const opened = await openedHashes(trx, {
    personId: viewer.id,
    documentId: document,
    hashes: files.map((file) => file.sha256),
  });
  assertNoneLeft(files.filter((file) => !opened.has(file.sha256)));
};

/** Refuses to sign altered files: every file of the record is read again. */
const ensureBytes = async (app: App, record: store.RecordRow): Promise<void> => {
  for (const { name, sha256: hash } of filesOfRecord(record).files) {
    const finding = await app.content.verify(hash, 'signing');
    if (finding === 'altered') throw refused('content_altered', { name, hash: hash.slice(0, 12) });
    if (finding === 'missing') throw refused('content_missing', { name });
  }
};

/**
 * Whether a signature still binds: its row has the seal of the hashed event of its command, its digest is that of the stored
 * record, the record matches the frozen rows, and the last check of each content found its bytes unchanged.
 */
export const toSignatureInfo = (
  row: store.SignatureRow,
  frozen: { text: string; files: readonly FileRow[] } | undefined,
): SignatureInfo => {
  const fault = signatureFault(
    statementOf(row),
    row.seal,
    row.event_text && row.event_hash ? { text: row.event_text, hash: row.event_hash } : undefined,
    row.sign_in_name,
    sha256,
  );
  const intact =
    fault === undefined &&
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

/** The signatures of a revision's runs with their state, judged against the present rows. */
export const signaturesOf = async (
  db: Db | Trx,
  document: DocumentRow,
  revision: RevisionRow,
  known?: readonly FileRow[],
): Promise<
  (SignatureInfo & { assignmentId: string | null; personId: string; leadsTo: 'release' | 'nothing' | null })[]
> => {
  const signatures = await store.listSignatures(db, [revision.id]);
  if (signatures.length === 0) return [];
  const files = known ?? (revision.latest_version_id ? await listFiles(db, [revision.latest_version_id]) : []);
  const frozen = { text: recordTextOf(document, revision, files), files };
  // A void signature is judged by its own record alone: the rows have moved on since.
  return signatures.map((row) => ({
    ...toSignatureInfo(row, row.void_at ? undefined : frozen),
    assignmentId: row.assignment_id,
    personId: row.person_id,
    leadsTo: row.round_leads_to,
  }));
};

export const readingSignature = store.findReadingSignature;
export const voidSignatures = store.voidSignatures;
