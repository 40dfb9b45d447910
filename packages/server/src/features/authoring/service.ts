import { api, type BodyInOf, type BodyOf } from '@kanonos/contract';
import type { Metadata } from '@kanonos/core';
import { workAddress } from '../../platform/addresses.ts';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { cleanName } from '../../platform/http/upload.ts';
import { refused } from '../../platform/refused.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import { readFiled } from '../content/index.ts';
import {
  allMetadata,
  changeDocument,
  differsInMetadataOnly,
  filesAfter,
  followsNamingRule,
  namedByRule,
  type Opened,
  openForCommand,
  refreshLists,
  runCommand,
  sameFiles,
  subjectOf,
  workOf,
} from '../documents/index.ts';
import { fileIncomingFile } from '../intake/index.ts';
import { notify } from '../mailing/index.ts';
import {
  addVersion,
  endCheckout,
  insertCheckout,
  listFiles,
  listVersions,
  type RevisionRow,
  sameFile,
} from '../revisions/index.ts';
import { moveOn, roundAfterCheckIn } from '../rounds/index.ts';
import { ensureMetadata } from '../rules/index.ts';
import { recordUsage } from '../usage/index.ts';
import { apartAsBefore } from './metadata.ts';
import { findWorkingCopy } from './store.ts';
import { keepUnsaved } from './workingCopies.ts';

/** Reserves the document; of two simultaneous ones one wins and the other learns who (row lock and unique index). */
export const checkOut: HandlerOf<typeof api.documents.checkOut> = async (app, viewer, ref, input) => {
  const wanted = { document: ref, command: 'check out' as const, seen: input.seen };
  const taken = await runCommand(app, viewer, wanted, async (work, opened) => {
    const { document, revision } = await checkOutIn(work, viewer, opened, input);
    const files = revision.latest_version_id ? await listFiles(work.trx, [revision.latest_version_id]) : [];
    return { document, revision, originals: files.filter((file) => file.role === 'original') };
  });
  for (const file of taken.originals)
    await recordUsage(app, {
      personId: viewer.id,
      documentId: taken.document.id,
      revisionId: taken.revision.id,
      version: taken.revision.version_count,
      fileId: file.id,
      action: 'handed out',
    });
  return { fileIds: taken.originals.map((file) => file.id) };
};

const beginCheckout = (
  work: UnitOfWork,
  viewer: Viewer,
  document: { id: string },
  revision: { id: string },
  about: { note: string; expectedBack: string | null },
) =>
  insertCheckout(work.trx, {
    id: newId(),
    documentId: document.id,
    revisionId: revision.id,
    personId: viewer.id,
    now: work.now,
    ...about,
  });

const checkOutIn = async (
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  input: Pick<BodyOf<typeof api.documents.checkOut>, 'note' | 'expectedBack'>,
) => {
  const { document } = opened;
  const revision = workOf(opened, 'check out');
  await beginCheckout(work, viewer, document, revision, input);
  work.record({
    kind: 'revision.checked-out',
    subject: subjectOf(document, revision),
    payload: { expectedBack: input.expectedBack, note: input.note },
  });
  return { document, revision };
};

/** Gives the document back with a note: the next version, with metadata corrected in the same step. */
export const checkIn = (
  app: App,
  viewer: Viewer,
  ref: string,
  given: BodyInOf<typeof api.documents.checkIn>,
): Promise<{ version: number }> =>
  runCommand(app, viewer, { document: ref, command: 'check in', seen: given.seen }, (work, opened) =>
    checkInIn(app, work, viewer, opened, given),
  );

/**
 * Checks out, adds a version and checks in, all in one transaction: for a program that saves without checking out first.
 * Killed on the way, it leaves no check-out behind.
 */
export const saveVersion = (
  app: App,
  viewer: Viewer,
  ref: string,
  given: BodyInOf<typeof api.documents.checkIn>,
): Promise<{ version: number }> =>
  runCommand(app, viewer, { document: ref, command: 'check out', seen: given.seen }, async (work, opened) => {
    await checkOutIn(work, viewer, opened, { note: '', expectedBack: null });
    const taken = await openForCommand(app, work, viewer, { document: ref, command: 'check in' });
    return checkInIn(app, work, viewer, taken, given);
  });

const checkInIn = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  given: BodyInOf<typeof api.documents.checkIn>,
): Promise<{ version: number }> => {
  const wish = api.documents.checkIn.body.parse(given);
  const { document, checkout } = opened;
  const revision = workOf(opened, 'check in');
  if (!checkout) throw refused('not_checked_out');
  // Without another file, the file saved on the network drive under this check-out is checked in.
  const saved = wish.uploadId ? undefined : await findWorkingCopy(work.trx, checkout.id);
  const input = { ...wish, uploadId: wish.uploadId ?? saved?.upload_id ?? null };
  const before = revision.latest_version_id ? await listFiles(work.trx, [revision.latest_version_id]) : [];
  const files = await filesAfter(app, work, viewer, before, input);
  if (input.name && files[0]?.role === 'original')
    files[0] = { ...files[0], name: cleanName(input.name) || files[0].name };
  const [filed, sent] = [before.find((file) => file.role === 'original'), files[0]];
  // The same words with other metadata inside are the same content: the filed bytes stay, metadata are corrected as metadata.
  if (
    filed &&
    sent &&
    input.uploadId &&
    (await differsInMetadataOnly(app, work.trx, opened, revision, filed, sent.sha256))
  )
    files[0] = { ...sent, name: filed.name, sha256: filed.sha256, size: filed.size };
  const metadata = await correctedMetadata(work, opened, revision, input.metadata);
  const sameMetadata =
    JSON.stringify(metadata.revisionFields) === JSON.stringify(revision.metadata) &&
    (input.title ?? revision.title) === revision.title &&
    (input.summary ?? revision.summary) === revision.summary;
  if (sameFiles(files, before) && !input.sameContentMeant && (input.uploadId || sameMetadata))
    throw refused('same_content', { n: revision.version_count });
  const isNamedByRule = followsNamingRule(document, opened.type);
  const about = { label: revision.label, title: input.title ?? revision.title, metadata: metadata.revisionFields };
  const version = await addVersion(work, revision, {
    files: isNamedByRule ? namedByRule(opened, about, revision.version_count + 1, work.day, files) : files,
    note: input.note,
    title: input.title ?? revision.title,
    summary: input.summary ?? revision.summary,
    metadata: metadata.revisionFields,
  });
  await readFiled(
    app,
    work.trx,
    files.map((file) => file.sha256),
  );
  await saveLiving(work, opened, metadata.documentFields);
  const arrived = input.incomingFileId
    ? await fileIncomingFile(work, viewer, input.incomingFileId, document.id)
    : undefined;
  await endCheckout(work.trx, checkout.id, work.now, 'checked in');
  await refreshLists(work.trx, document.id, work.now);
  work.record({
    kind: 'version.checked-in',
    subject: subjectOf(document, revision),
    payload: {
      version: version.n,
      note: input.note,
      files: files.map((file) => ({ role: file.role, name: file.name, sha256: file.sha256 })),
      ...(input.metadata ? { metadata: input.metadata } : {}),
      ...changedFields({ ...document.metadata, ...revision.metadata }, input.metadata),
      title: input.title ?? revision.title,
      ...(arrived ? { arrived } : {}),
    },
  });
  await roundAfterCheckIn(app, work, { ...opened, checkout: undefined }, version.n);
  return { version: version.n };
};

/** The fields that a check-in gives another value, by their keys; nothing where it gives none. */
const changedFields = (before: Metadata, given: Metadata | undefined): { changed?: string[] } => {
  const changed = Object.keys(given ?? {}).filter(
    (key) => JSON.stringify(given?.[key] ?? null) !== JSON.stringify(before[key] ?? null),
  );
  return changed.length > 0 ? { changed } : {};
};

const correctedMetadata = async (
  work: UnitOfWork,
  { document, type }: Opened,
  revision: RevisionRow,
  given: Metadata | undefined,
): Promise<{ revisionFields: Metadata; documentFields: Metadata | undefined }> => {
  if (!given) return { revisionFields: revision.metadata, documentFields: undefined };
  const before = allMetadata(document, revision);
  await ensureMetadata(work.trx, type, given, before, document.id);
  return apartAsBefore(type.fields, { ...before, ...given }, revision.metadata);
};

const saveLiving = async (work: UnitOfWork, { document }: Opened, documentFields: Metadata | undefined) => {
  if (!documentFields || JSON.stringify(documentFields) === JSON.stringify(document.metadata)) return;
  await changeDocument(work.trx, {
    id: document.id,
    metadata: documentFields,
    keywords: document.keywords,
    ownerId: document.owner_id,
    reviewOn: document.review_on,
    now: work.now,
    rowVersion: document.row_version,
  });
};

/** Ends one's own check-out without a trace in content. */
export const discardCheckout: HandlerOf<typeof api.documents.discardCheckout, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'discard check-out', seen: input.seen }, async (work, opened) => {
    if (opened.checkout) await endCheckout(work.trx, opened.checkout.id, work.now, 'discarded');
    work.record({ kind: 'check-out.discarded', subject: subjectOf(opened.document, opened.work) });
    await moveOn(app, work, { ...opened, checkout: undefined });
  });

/** Somebody else's check-out becomes mine with a reason, with the day on which it was expected back; the former holder is informed. */
export const takeOverCheckout = (
  app: App,
  viewer: Viewer,
  ref: string,
  { reason, seen }: BodyOf<typeof api.documents.takeOverCheckout>,
): Promise<void> =>
  runCommand(app, viewer, { document: ref, command: 'take over check-out', seen }, async (work, opened) => {
    const { document, checkout } = opened;
    const revision = workOf(opened, 'take over check-out');
    if (!checkout) throw refused('not_checked_out');
    const kept = await keepUnsaved(work, { document }, revision, checkout);
    await endCheckout(work.trx, checkout.id, work.now, 'taken over');
    await insertCheckout(work.trx, {
      id: newId(),
      documentId: document.id,
      revisionId: revision.id,
      personId: viewer.id,
      now: work.now,
      note: reason,
      expectedBack: checkout.expected_back,
    });
    work.record({
      kind: 'check-out.taken-over',
      subject: subjectOf(document, revision),
      payload: { from: checkout.person_name, reason },
    });
    await notify(app, work, [checkout.person_id], {
      kind: 'check-out taken over',
      about: document.id,
      subject: `${viewer.name} took over your check-out of ${document.number}`,
      lead: `${document.number} ${revision.title} was checked out to you. ${viewer.name} has taken over the check-out and continues from version ${revision.version_count}. ${kept ? 'What you had saved on the network drive is kept as a supporting file.' : 'What you have not checked in is on your machine alone.'}`,
      quote: reason,
      link: { path: workAddress(document.number), label: 'Open the document' },
    });
  });

/** Makes an older version the newest: as a new version, so that nothing of the way is lost. */
export const makeNewest = (
  app: App,
  viewer: Viewer,
  ref: string,
  versionId: string,
  input: BodyOf<typeof api.documents.makeNewest>,
): Promise<{ version: number }> =>
  runCommand(app, viewer, { document: ref, command: 'correct metadata', seen: input.seen }, async (work, opened) => {
    const { document } = opened;
    const { note } = input;
    const revision = workOf(opened, 'correct metadata');
    const older = (await listVersions(work.trx, revision.id)).find((version) => version.id === versionId);
    if (!older) throw refused('not_found');
    if (older.id === revision.latest_version_id) throw refused('same_content', { n: older.n });
    const files = await listFiles(work.trx, [older.id]);
    const version = await addVersion(work, revision, {
      files: files.map(sameFile),
      note: note || `Version ${older.n} made the newest`,
      title: older.title,
      summary: revision.summary,
      metadata: older.metadata,
    });
    await refreshLists(work.trx, document.id, work.now);
    work.record({
      kind: 'version.made-newest',
      subject: subjectOf(document, revision),
      payload: { from: older.n, version: version.n, note },
    });
    return { version: version.n };
  });
