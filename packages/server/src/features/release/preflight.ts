import type { AnswerOf, api } from '@kanonos/contract';
import { addDays, dayOf, missingFields, type PreflightLine, preflight } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Finding } from '../../platform/content/integrity.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { ensureRight, type Viewer } from '../access/index.ts';
import { blockersOfNote } from '../changes/index.ts';
import { openBlocking } from '../comments/index.ts';
import type { DocumentRow } from '../documents/index.ts';
import { allMetadata, type Opened, openDocument, workOf } from '../documents/index.ts';
import { countAudience, hasReaders } from '../reading/index.ts';
import { findCheckout, listFiles, type RevisionRow } from '../revisions/index.ts';
import type { TypeRow } from '../rules/index.ts';
import {
  digestToSign,
  filesToOpen,
  latestRecord,
  nameAssignees,
  recordTextOf,
  signaturesOf,
} from '../signing/index.ts';
import * as store from './store.ts';

/** Every blocker of the release of a revision, computed from the rows and the bytes in the store. */
export const preflightOf = async (
  app: App,
  trx: Trx,
  document: DocumentRow,
  revision: RevisionRow,
  type: TypeRow,
): Promise<PreflightLine[]> => {
  const listed = revision.latest_version_id ? await listFiles(trx, [revision.latest_version_id]) : [];
  // Released files are read again, byte by byte: no file changed in the store comes into force.
  const findings = new Map<string, Finding>();
  for (const file of listed) findings.set(file.sha256, await app.content.verify(file.sha256, 'release'));
  const found = (finding: Finding) => listed.filter((file) => findings.get(file.sha256) === finding);
  const files = listed.map((file) => ({ ...file, check_failed: findings.get(file.sha256) !== 'intact' }));
  const signatures = (await signaturesOf(trx, document, revision, files)).filter(
    // What was signed outside the route counts as nobody's approval; altered, it hinders all the same.
    (signature) => signature.state === 'altered' || (signature.state === 'intact' && signature.leadsTo === 'release'),
  );
  const record = await latestRecord(trx, revision.id);
  const checkout = await findCheckout(trx, document.id);
  const walked = revision.state !== 'draft';
  return preflight({
    signatures: signatures.map((signature) => ({
      who: signature.printedName,
      meaning: signature.meaning,
      intact: signature.state === 'intact',
    })),
    needsApprovers: walked ? await store.countApprovers(trx, revision.id) : 0,
    ...(checkout ? { checkout: { personName: checkout.person_name, since: checkout.at.toISOString() } } : {}),
    missingFields: missingFields(type.fields, allMetadata(document, revision)),
    hasOriginal: files.some((file) => file.role === 'original'),
    contentMissing: found('missing').map((file) => file.name),
    contentAltered: found('altered').map((file) => ({ name: file.name, hash: file.sha256.slice(0, 12) })),
    blockingComments: await openBlocking(trx, revision.id),
    readersNeeded: type.readers_needed,
    readersDefined: await hasReaders(trx, document.id),
    changeNote: await blockersOfNote(trx, type, revision),
    recordUnchanged: !walked || (record !== undefined && record.text === recordTextOf(document, revision, files)),
  });
};

/** The preflight of the revision in work, with what its release will do. */
export const preflightFor = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.documents.preflight>> => {
  const organisation = await app.organisation();
  const day = dayOf(app.clock(), organisation.zone);
  const opened = await openDocument(app.db, viewer, ref, day);
  ensureRight(opened.rights, 'release');
  const revision = workOf(opened, 'release');
  return app.db.transaction(async (trx) => ({
    label: revision.label,
    lines: await preflightOf(app, trx, opened.document, revision, opened.type),
    supersedes: opened.inForce?.label ?? null,
    readers: await countAudience(trx, opened.document.id, day),
    earliestDay: addDays(day, 1),
    signing: await signingOf(app, trx, viewer, opened, revision, organisation.signingIdleMinutes),
  }));
};

/** The signature of the release itself, where no route signs: its digest, and the files that the viewer has opened. */
const signingOf = async (
  app: App,
  trx: Trx,
  viewer: Viewer,
  { document, type }: Opened,
  revision: RevisionRow,
  idleMinutes: number,
) => {
  if (revision.state !== 'draft' || !type.release_without_route) return null;
  return {
    digest: await digestToSign(trx, document, revision),
    asksForName: nameAssignees(app, viewer, idleMinutes),
    files: await filesToOpen(trx, viewer, document.id, revision.latest_version_id),
  };
};
