import { canonicalJson } from '../trail/canonical.ts';
import { type Sha256, type TrailEvent, toHex } from '../trail/event.ts';

/** The facts of a signature: who signed which record, when, in which sense and for whom. */
export type SignatureStatement = {
  id: string;
  /** The digest of the signing record that it binds. */
  digest: string;
  revision: string;
  person: string;
  printedName: string;
  meaning: string;
  /** UTC, with milliseconds. */
  at: string;
  zone: string;
  method: string;
  for: string | null;
  assignment: string | null;
  reading: string | null;
};

/** A signature as its database row holds it. */
export type StoredSignature = {
  id: string;
  digest: string;
  revision_id: string;
  person_id: string;
  printed_name: string;
  meaning: string;
  at: Date;
  zone: string;
  method: string;
  for_person_id: string | null;
  assignment_id: string | null;
  reading_id: string | null;
};

/** The facts of a stored signature. */
export const statementOf = (row: StoredSignature): SignatureStatement => ({
  id: row.id,
  digest: row.digest,
  revision: row.revision_id,
  person: row.person_id,
  printedName: row.printed_name,
  meaning: row.meaning,
  at: row.at.toISOString(),
  zone: row.zone,
  method: row.method,
  for: row.for_person_id,
  assignment: row.assignment_id,
  reading: row.reading_id,
});

/**
 * The seal of a signature (21 CFR 11.70): the SHA-256 of the RFC 8785 form of all its facts. It is stored with the signature
 * and in the event of its command, so that neither can be altered alone.
 */
export const signatureSeal = (statement: SignatureStatement, sha256: Sha256): string => {
  const given = Object.fromEntries(Object.entries(statement).filter(([, value]) => value !== null));
  return toHex(sha256(canonicalJson(given)));
};

/** What of a signature's event is compared with it. */
export type SignatureEvent = { text: string; hash: string };

/**
 * Why a signature and the event of its command do not fit each other; undefined when they do. Events from before seals name record and
 * meaning only, and the one who acted; those of releases only the latter, and the revision.
 */
export const signatureFault = (
  statement: SignatureStatement,
  seal: string | null,
  event: SignatureEvent | undefined,
  signInName: string,
  sha256: Sha256,
): 'row' | 'event missing' | 'event' | undefined => {
  const own = signatureSeal(statement, sha256);
  if (seal !== null && seal !== own) return 'row';
  if (!event) return 'event missing';
  if (toHex(sha256(event.text)) !== event.hash) return 'event';
  const { payload, actor, subject } = JSON.parse(event.text) as Pick<TrailEvent, 'payload' | 'actor' | 'subject'>;
  if (seal === null && payload.signature === undefined)
    return actor === signInName && subject?.revision?.id === statement.revision ? undefined : 'event';
  if (payload.signature !== statement.id || payload.digest !== statement.digest || actor !== signInName) return 'event';
  if (payload.seal !== undefined) return payload.seal === own ? undefined : 'row';
  return payload.meaning === undefined || payload.meaning === statement.meaning ? undefined : 'row';
};
