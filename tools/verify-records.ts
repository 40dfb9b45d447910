// npm run verify-records [-- --heads FILE]: holds the rows of the database against the hashed trail, with nothing but the core's rules:
// every signature has its event and every signing its signature, each as it was given; what counts as read bears a signature; what is in
// force came there by an event. The database is that of DATABASE_URL, else the one of the start command.
import { join } from 'node:path';
import {
  createVerifier,
  eventLine,
  recordDigest,
  type SignedHead,
  type StoredSignature,
  signatureFault,
  statementOf,
  type TrailEvent,
} from '@kanonos/core';
import pg from 'pg';
import { ownerUrl, runningCluster } from './lib/cluster.mjs';
import { readHeads, sha256, verifierTools } from './lib/verifierTools.ts';

const PIECE = 5_000;

const addressOfDatabase = (): string => {
  if (process.env.DATABASE_URL) return process.env.DATABASE_URL;
  const cluster = runningCluster(join(import.meta.dirname, '..', '.local', 'data'));
  if (!cluster) throw new Error('No database is running here. Start Kanonos, or give its address in DATABASE_URL.');
  return ownerUrl(cluster, 'kanonos');
};

type SignatureRow = StoredSignature & {
  record_digest: string;
  record_text: string;
  sign_in_name: string;
  seal: string | null;
};

/** The kinds of events by which something is signed. */
const SIGNS = new Set([
  'decision.given',
  'reading.signed',
  'revision.reinstated',
  'revision.released',
  'revision.scheduled',
]);

/** Everything that does not fit, in sentences; nothing where all does. */
export const verifyRecords = async (
  db: pg.Client,
  heads: readonly SignedHead[] = [],
): Promise<{ faults: string[]; events: number; signatures: number; readings: number }> => {
  const faults: string[] = [];
  const verifier = createVerifier(verifierTools, { heads });
  const signings = new Map<string, { text: string; hash: string; seq: number }>();
  /** Releases of the time before their events named the signature, by revision. */
  const releases = new Map<string, { text: string; hash: string; at: string }[]>();
  const inForce = new Set<string>();
  let events = 0;
  for (let after = 0; ; ) {
    const { rows } = await db.query<{ seq: string; text: string; hash: string }>(
      'select seq, text, hash from events where seq > $1 order by seq limit $2',
      [after, PIECE],
    );
    if (rows.length === 0) break;
    for (const { seq, text, hash: eventHash } of rows) {
      verifier.line(eventLine(text, eventHash));
      const event = JSON.parse(text) as TrailEvent;
      if (SIGNS.has(event.kind) && typeof event.payload.signature === 'string')
        signings.set(event.payload.signature, { text, hash: eventHash, seq: Number(seq) });
      else if (event.kind === 'revision.released' || event.kind === 'revision.scheduled') {
        const revision = event.subject.revision?.id ?? '';
        releases.set(revision, [...(releases.get(revision) ?? []), { text, hash: eventHash, at: event.at }]);
      }
      if (event.kind === 'revision.in-force') inForce.add(event.subject.revision?.id ?? '');
      events++;
    }
    after = Number(rows.at(-1)?.seq);
  }
  const verdict = verifier.verdict();
  if (verdict.kind === 'broken') faults.push(`The trail is broken at event ${verdict.seq ?? '?'}: ${verdict.reason}.`);

  const { rows: signatures } = await db.query<SignatureRow>(
    `select s.*, r.digest as record_digest, r.text as record_text, p.sign_in_name from signatures s
     join signing_records r on r.id = s.record_id join people p on p.id = s.person_id order by s.at`,
  );
  const known = new Set(signatures.map((row) => row.id));
  for (const row of signatures) {
    const who = `The signature of ${row.printed_name} (${row.meaning}) of ${row.at.toISOString()}`;
    const fault = signatureFault(
      statementOf(row),
      row.seal,
      signings.get(row.id) ??
        (row.seal === null && !row.assignment_id && !row.reading_id
          ? releases.get(row.revision_id)?.find((event) => event.at >= row.at.toISOString())
          : undefined),
      row.sign_in_name,
      sha256,
    );
    if (fault === 'event missing') faults.push(`${who} has no event.`);
    else if (fault) faults.push(`${who} is not as its event says.`);
    if (row.digest !== row.record_digest || recordDigest(row.record_text, sha256) !== row.digest)
      faults.push(`${who} does not bind its record.`);
  }
  for (const [id, { seq }] of signings)
    if (!known.has(id)) faults.push(`Event ${seq} says of a signature that is not there.`);

  const { rows: readings } = await db.query<{ person: string; number: string; label: string; signed: boolean }>(
    `select p.name as person, d.number, r.label, exists (select 1 from signatures s where s.reading_id = a.id) as signed
     from reading_assignments a join people p on p.id = a.person_id join documents d on d.id = a.document_id join revisions r on r.id = a.revision_id
     where a.state = 'signed'`,
  );
  for (const row of readings)
    if (!row.signed) faults.push(`${row.person} has not signed ${row.number} ${row.label}, which counts as read.`);

  const { rows: released } = await db.query<{ id: string; number: string; label: string }>(
    `select r.id, d.number, r.label from revisions r join documents d on d.id = r.document_id
     where r.state in ('in force', 'superseded', 'withdrawn') and r.imported is null`,
  );
  for (const row of released)
    if (!inForce.has(row.id)) faults.push(`No event brought ${row.number} ${row.label} into force.`);
  return { faults, events, signatures: signatures.length, readings: readings.length };
};

const main = async (): Promise<number> => {
  const at = process.argv.indexOf('--heads');
  const file = at > 0 ? process.argv[at + 1] : undefined;
  const db = new pg.Client({ connectionString: addressOfDatabase() });
  await db.connect();
  try {
    const { faults, events, signatures, readings } = await verifyRecords(db, file ? readHeads(file) : []);
    for (const fault of faults) process.stdout.write(`${fault}\n`);
    process.stdout.write(
      faults.length === 0
        ? `All records fit the trail: ${events} events, ${signatures} signatures, ${readings} signed readings.\n`
        : `${faults.length} ${faults.length === 1 ? 'record does' : 'records do'} not fit the trail.\n`,
    );
    return faults.length === 0 ? 0 : 1;
  } finally {
    await db.end();
  }
};

if (process.argv[1]?.endsWith('verify-records.ts'))
  main().then(
    (code) => {
      process.exitCode = code;
    },
    (error: Error) => {
      process.stderr.write(`${error.message}\n`);
      process.exitCode = 2;
    },
  );
