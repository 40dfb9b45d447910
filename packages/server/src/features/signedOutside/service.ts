import { Readable } from 'node:stream';
import type { AnswerOf, api, BodyOf, SignedOutside } from '@kanonos/contract';
import { dayOf, decideSignable, hasRight } from '@kanonos/core';
import { documentAddress } from '../../platform/addresses.ts';
import { type App, SYSTEM_CLOCK, type UnitOfWork } from '../../platform/app.ts';
import { isShownByPages } from '../../platform/content/kind.ts';
import { newId } from '../../platform/db/ids.ts';
import { parse } from '../../platform/parsing/index.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { SigningService } from '../../platform/signing/service.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import { getStored, keepContent } from '../content/index.ts';
import { lockDocument, type Opened, openDocument, runCommand, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { listFiles, type RevisionRow } from '../revisions/index.ts';
import { meantRevision } from '../rounds/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import { madePages } from '../viewing/index.ts';
import * as store from './store.ts';
import { serviceOf, trustedCertificates } from './trust.ts';

const PDF = 'application/pdf';

/** Whoever may release or author a document has it signed outside. */
const mayHave = ({ rights }: Pick<Opened, 'rights'>): boolean =>
  hasRight(rights, 'release') || hasRight(rights, 'author');

const today = async (app: App): Promise<string> => dayOf(app.clock(), (await app.organisation()).zone);

const toSigned = (row: store.OutsideRow, mayChange: boolean): SignedOutside => ({
  id: row.id,
  label: row.label,
  how: row.how,
  state: row.state,
  // Where somebody signs is for whoever may send it to them.
  signers: row.signers.map(({ name, signedAt, address }) => ({ name, signedAt, address: mayChange ? address : null })),
  note: row.note,
  by: { id: row.by_id, name: row.by_name },
  at: row.at.toISOString(),
  isSent: row.reference !== null,
  file: row.name,
  signatures: row.signatures ?? [],
  endedAt: row.ended_at?.toISOString() ?? null,
  why: row.why,
  mayCancel: mayChange && row.state === 'waiting',
});

/** What of a document was signed outside, or is being signed there, as far as the viewer may read the revision. */
export const signedOutside = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.signedOutside.list>> => {
  const opened = await openDocument(app.db, viewer, ref, await today(app));
  const seen = (row: store.OutsideRow) =>
    hasRight(
      opened.rights,
      ['in force', 'superseded', 'withdrawn'].includes(row.revision_state) ? 'read' : 'read work',
    );
  return {
    items: (await store.listOf(app.db, opened.document.id)).filter(seen).map((row) => toSigned(row, mayHave(opened))),
    mayBring: mayHave(opened),
    hasService: app.config.signingServiceUrl !== undefined,
  };
};

/** The revision that is signed outside: its content must be decided. */
const toBeSigned = (opened: Opened, revisionId: string | undefined): RevisionRow => {
  if (!mayHave(opened)) throw refused('right_missing', { right: 'author' });
  const revision = meantRevision(opened, revisionId);
  assertAllowed(decideSignable(revision.state));
  return revision;
};

/** The PDF of a revision: its first original, or the pages made of it. */
const pdfOf = async (app: App, revision: RevisionRow): Promise<string> => {
  const files = revision.latest_version_id ? await listFiles(app.db, [revision.latest_version_id]) : [];
  const original = files.find(({ role }) => role === 'original');
  if (original?.media_type === PDF) return original.sha256;
  const pages = original && isShownByPages(original.media_type) ? await madePages(app, original.sha256) : undefined;
  if (!pages) throw refused('no_pdf_to_sign');
  return pages;
};

const bytesOf = async (app: App, sha256: string): Promise<Uint8Array> => {
  const pieces: Buffer[] = [];
  for await (const piece of await app.content.open(sha256)) pieces.push(piece as Buffer);
  return new Uint8Array(Buffer.concat(pieces));
};

const inTrail = (signatures: readonly SignedOutside['signatures'][number][]) =>
  signatures.map(({ by, at, intact, coversAll, trusted }) => ({ by, at, intact, coversAll, trusted }));

/** Keeps a PDF that came back with signatures, with what was found in it. One without signatures is refused. */
/** Lays down what is or comes from outside; gives its id. */
const layDown = async (
  work: UnitOfWork,
  { document }: Pick<Opened, 'document'>,
  revision: { id: string },
  by: string,
  what: Pick<store.NewOutside, 'how' | 'state' | 'note'> & Partial<store.NewOutside>,
): Promise<string> => {
  const id = newId();
  await store.insert(work.trx, {
    id,
    documentId: document.id,
    revisionId: revision.id,
    by,
    now: work.now,
    signers: [],
    sentSha256: null,
    name: null,
    sha256: null,
    signatures: null,
    ...what,
  });
  return id;
};

export const bring: HandlerOf<typeof api.signedOutside.bring> = async (app, viewer, ref, input) => {
  // Whoever may not is told so before anything is read.
  toBeSigned(await openDocument(app.db, viewer, ref, await today(app)), input.revisionId);
  const upload = await getStored(app, app.db, viewer, input.uploadId);
  if (upload.media_type !== PDF) throw refused('pdf_not_signed', { name: upload.name });
  // Read before anything is locked: it takes its time.
  const signatures = await parse(
    'signaturesInPdf',
    await app.content.intactPath(upload.sha256),
    await trustedCertificates(app),
    app.clock(),
  );
  if (signatures.length === 0) throw refused('pdf_not_signed', { name: upload.name });
  return runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const revision = toBeSigned(opened, input.revisionId);
    const id = await layDown(work, opened, revision, viewer.id, {
      how: 'brought',
      state: 'signed',
      note: input.note,
      name: upload.name,
      sha256: upload.sha256,
      signatures,
    });
    work.record({
      kind: 'revision.signed-outside',
      subject: subjectOf(opened.document, revision),
      payload: { file: upload.name, sha256: upload.sha256, signatures: inTrail(signatures), note: input.note },
    });
    return { id, signatures };
  });
};

/** Asks people outside to sign through the service; the clock hands it over, so that a service that is down loses nothing. */
export const send: HandlerOf<typeof api.signedOutside.send> = async (app, viewer, ref, input) => {
  const meant = toBeSigned(await openDocument(app.db, viewer, ref, await today(app)), input.revisionId);
  if (!serviceOf(app)) throw refused('no_signing_service');
  const pdf = await pdfOf(app, meant);
  return runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const revision = toBeSigned(opened, input.revisionId);
    const id = await layDown(work, opened, revision, viewer.id, {
      how: 'sent',
      state: 'waiting',
      note: input.message,
      signers: input.signers.map((one) => ({ ...one, signedAt: null, address: null })),
      sentSha256: pdf,
    });
    work.record({
      kind: 'revision.sent-to-be-signed',
      subject: subjectOf(opened.document, revision),
      payload: {
        sha256: pdf,
        signers: input.signers.map(({ name, mail }) => `${name} <${mail}>`),
        message: input.message,
      },
    });
    return { id };
  });
};

/** Takes a request back that waits at the service. */
export const cancel = async (
  app: App,
  viewer: Viewer,
  id: string,
  { reason }: BodyOf<typeof api.signedOutside.cancel>,
): Promise<void> => {
  const named = await store.find(app.db, id);
  if (!named) throw refused('not_found');
  await runCommand(app, viewer, { document: named.document_id }, async (work, opened) => {
    await store.lock(work.trx, id);
    const row = await store.find(work.trx, id);
    if (!row || !mayHave(opened)) throw refused('not_found');
    if (row.state !== 'waiting') throw refused('outside_signing_ended', { state: row.state });
    await store.end(work.trx, { id, state: 'cancelled', now: work.now, why: reason });
    work.record({
      kind: 'revision.signing-outside-ended',
      subject: subjectOf(opened.document, { id: row.revision_id, label: row.label }),
      payload: { state: 'cancelled', why: reason },
    });
    const { reference } = row;
    // What the service does not hear now, it hears when the person signs: the result is not taken any more.
    if (reference)
      work.afterCommit(
        () =>
          void serviceOf(app)
            ?.cancel(reference)
            .catch(() => undefined),
      );
  });
};

/** The PDF that came back, for whoever may read the revision. */
export const signedFile = async (app: App, viewer: Viewer, id: string) => {
  const row = await store.find(app.db, id);
  if (!row?.sha256 || !row.name) throw refused('not_found');
  meantRevision(await openDocument(app.db, viewer, row.document_id, await today(app)), row.revision_id);
  if (!(await app.content.has(row.sha256))) throw refused('content_missing', { name: row.name });
  const size = await app.content.sizeOf(row.sha256);
  return { name: row.name, sha256: row.sha256, size, mediaType: PDF, as: 'download' as const };
};

/** The clock's job: hands new requests over to the service, asks how far the others are, and takes what came back. */
export const askSigningService = async (app: App): Promise<number> => {
  const service = serviceOf(app);
  if (!service) return 0;
  return eachOnItsOwn(
    app,
    'signature from outside',
    await store.listWaiting(app.db),
    ({ id, number, document_id }) => ({ subject: id, label: number, documentId: document_id }),
    (row) => (row.reference ? askOne(app, service, row, row.reference) : handOver(app, service, row)),
  );
};

const handOver = async (app: App, service: SigningService, row: store.OutsideRow): Promise<void> => {
  const { reference } = await service.send({
    title: [row.number, row.label, row.title].filter(Boolean).join(' '),
    message: row.note,
    signers: row.signers,
    pdf: await bytesOf(app, row.sent_sha256 ?? ''),
  });
  await app.command(SYSTEM_CLOCK, (work) => store.setReference(work.trx, { id: row.id, reference }));
  await askOne(app, service, row, reference);
};

const askOne = async (app: App, service: SigningService, row: store.OutsideRow, reference: string): Promise<void> => {
  const asked = await service.ask(reference);
  const signers = row.signers.map((own) => ({ ...own, ...asked.signers.find(({ name }) => name === own.name) }));
  if (asked.state === 'waiting') {
    if (JSON.stringify(signers) === JSON.stringify(row.signers)) return;
    await app.command(SYSTEM_CLOCK, (work) => store.setSigners(work.trx, { id: row.id, signers }));
    return;
  }
  const result = asked.state === 'signed' ? await fetchSigned(app, service, row, reference) : undefined;
  await app.command(SYSTEM_CLOCK, async (work) => {
    await lockDocument(work.trx, row.document_id);
    await store.lock(work.trx, row.id);
    // Taken back meanwhile: what came back is left where it is.
    if ((await store.find(work.trx, row.id))?.state !== 'waiting') return;
    await store.setSigners(work.trx, { id: row.id, signers });
    if (result) await keepContent(app, work, { sha256: result.sha256, size: result.size, mediaType: PDF });
    await store.end(work.trx, {
      id: row.id,
      state: result ? 'signed' : 'declined',
      now: work.now,
      why: asked.why,
      ...(result ?? {}),
    });
    record(work, row, asked.why, result);
    await notify(app, work, [row.by_id], {
      kind: 'task',
      about: row.document_id,
      subject: `${row.number} ${row.label} ${result ? 'came back signed' : 'was not signed outside'}`,
      lead: result ? 'What was signed is kept with the revision.' : 'Somebody outside rejected it.',
      quote: asked.why,
      link: { path: documentAddress(row.number, 'tab=route'), label: 'Open the document' },
    });
  });
};

type Result = { name: string; sha256: string; size: number; signatures: SignedOutside['signatures'] };

const record = (work: UnitOfWork, row: store.OutsideRow, why: string, result: Result | undefined): void => {
  const subject = subjectOf({ id: row.document_id, number: row.number }, { id: row.revision_id, label: row.label });
  if (result)
    work.record({
      kind: 'revision.signed-outside',
      subject,
      payload: { file: result.name, sha256: result.sha256, signatures: inTrail(result.signatures), note: row.note },
    });
  else work.record({ kind: 'revision.signing-outside-ended', subject, payload: { state: 'declined', why } });
};

const fetchSigned = async (
  app: App,
  service: SigningService,
  row: store.OutsideRow,
  reference: string,
): Promise<Result> => {
  const bytes = await service.fetch(reference);
  const { sha256, size } = await app.content.put(
    Readable.from([Buffer.from(bytes)]),
    (await app.organisation()).uploadLimit,
  );
  const signatures = await parse(
    'signaturesInPdf',
    app.content.pathOf(sha256),
    await trustedCertificates(app),
    app.clock(),
  );
  const name = `${[row.number, row.label, 'signed']
    .filter(Boolean)
    .join(' ')
    .replaceAll(/[^\w .-]/g, '_')}.pdf`;
  return { name, sha256, size, signatures };
};
