import { type Refusal, refusal } from '../result.ts';
import { canonicalJson } from '../trail/canonical.ts';
import { type Sha256, toHex } from '../trail/event.ts';

/** A file as it is signed: role, stored name, and the SHA-256 of its bytes. */
export type SignedFile = { role: string; name: string; sha256: string };

/** What a signature binds: ids of document and revision, the files that exist then, and the revision fields. */
export type SigningRecord = {
  document: string;
  number: string;
  revision: string;
  label: string;
  changeKind: string;
  files: readonly SignedFile[];
  metadata: Readonly<Record<string, unknown>>;
};

/**
 * The canonical text of a signing record, frozen on entering approval and never rebuilt from living data: files sorted by
 * role then name, metadata without value left out.
 */
export const signingRecordText = (record: SigningRecord): string => {
  const files = [...record.files].sort((a, b) => compare(a.role, b.role) || compare(a.name, b.name));
  const metadata = Object.fromEntries(
    Object.entries(record.metadata).filter(([, value]) => value !== undefined && value !== null && value !== ''),
  );
  return canonicalJson({ ...record, files, metadata });
};

const compare = (a: string, b: string) => (a < b ? -1 : a > b ? 1 : 0);

/** The digest in a signature: SHA-256 of the record's canonical text, in hex. */
export const recordDigest = (text: string, sha256: Sha256): string => toHex(sha256(text));

export type SigningAttempt = {
  /** Whether sign-in name and password both came with the request, and whether they are right. */
  nameGiven: boolean;
  nameRight: boolean;
  passwordRight: boolean;
  /** The last signing of this period of access, and now. */
  lastSignedAt?: Date;
  now: Date;
  idleMinutes: number;
  lockedUntil?: Date;
  frozenDigest: string;
  seenDigest: string;
};

/** Whether the next signing asks sign-in name and password (21 CFR 11.200(a)(1)): the first of a period of access does. */
export const asksForName = (lastSignedAt: Date | undefined, now: Date, idleMinutes: number): boolean =>
  !lastSignedAt || now.getTime() - lastSignedAt.getTime() > idleMinutes * 60_000;

/** Why a signing is refused: locked after wrong tries, name or password wrong, or the record is not the one that was seen. */
export const decideSigning = (attempt: SigningAttempt): Refusal[] => {
  if (attempt.lockedUntil && attempt.lockedUntil > attempt.now) {
    return [refusal('signing_locked', { until: attempt.lockedUntil.toISOString() })];
  }
  if (attempt.seenDigest !== attempt.frozenDigest) return [refusal('record_changed')];
  if (asksForName(attempt.lastSignedAt, attempt.now, attempt.idleMinutes) && !attempt.nameGiven) {
    return [refusal('signing_needs_name')];
  }
  if (attempt.nameGiven && !attempt.nameRight) return [refusal('signing_wrong')];
  return attempt.passwordRight ? [] : [refusal('signing_wrong')];
};

/** Five wrong tries lock signing for 15 minutes (21 CFR 11.300(d)). */
export const WRONG_TRIES_LOCK = 5;
export const LOCK_MINUTES = 15;
