import type { api, BodyOf } from '@kanonos/contract';
import { canFollow, nextLabel } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import { firstTextOf, makeNote, noteToBeginUnder, putUnder } from '../changes/index.ts';
import { filesAfter, type Opened, refreshLists, runCommand, subjectOf, workOf } from '../documents/index.ts';
import {
  addVersion,
  endCheckout,
  insertRevision,
  lastLabelOf,
  listFiles,
  moveRevision,
  type RevisionRow,
} from '../revisions/index.ts';
import { endRoundsWithDraft } from '../rounds/index.ts';

/** Begins the next revision from the one in force (else the newest released or abandoned), or from an outside file. */
export const revise: HandlerOf<typeof api.documents.revise> = async (app, viewer, ref, { newNote, ...input }) => {
  // Its bytes are stored before: they are not part of the transaction.
  const uploadId = newNote && (await firstTextOf(app, viewer, newNote));
  return runCommand(app, viewer, { document: ref, command: 'revise', seen: input.seen }, async (work, opened) => {
    const made = newNote && uploadId ? await makeNote(app, work, viewer, opened, newNote, uploadId) : undefined;
    return reviseIn(app, work, viewer, opened, made ? { ...input, changeNote: made.number } : input);
  });
};

/** The same within an open transaction, under the lock of the document. */
export const reviseIn = async (
  app: App,
  work: UnitOfWork,
  viewer: Viewer,
  opened: Opened,
  input: Omit<BodyOf<typeof api.documents.revise>, 'seen'>,
): Promise<{ label: string }> => {
  const { document, type, revisions } = opened;
  const [newest] = revisions;
  const source = opened.inForce ?? revisions.find((r) => r.state === 'superseded' || r.state === 'withdrawn') ?? newest;
  if (!source || !newest) throw refused('nothing_to_revise');
  const note = await noteToBeginUnder(work, viewer, type, input.changeNote);
  const label = nextLabelFor(type.scheme, lastLabelOf(revisions), input, revisions);
  const before = source.latest_version_id ? await listFiles(work.trx, [source.latest_version_id]) : [];
  const files = await filesAfter(app, work, viewer, before, { uploadId: input.uploadId });
  const id = newId();
  await insertRevision(work.trx, {
    id,
    documentId: document.id,
    ordinal: newest.ordinal + 1,
    label,
    changeKind: input.changeKind,
    reason: input.reason,
    summary: input.summary,
    title: source.title,
    metadata: source.metadata,
    now: work.now,
    by: viewer.id,
  });
  await addVersion(
    work,
    { id, version_count: 0 },
    {
      files,
      note: input.uploadId ? 'Started from a new file' : `Started from ${source.label}`,
      title: source.title,
      summary: input.summary,
      metadata: source.metadata,
    },
  );
  if (note) await putUnder(work, viewer, { noteId: note.id, documentId: document.id, revisionId: id });
  await refreshLists(work.trx, document.id, work.now);
  work.record({
    kind: 'revision.revised',
    subject: subjectOf(document, { id, label }),
    payload: {
      from: source.label,
      changeKind: input.changeKind,
      reason: input.reason,
      outsideFile: input.uploadId !== null,
      ...(note ? { changeNote: note.number } : {}),
    },
  });
  return { label };
};

const nextLabelFor = (
  scheme: Opened['type']['scheme'],
  last: string,
  input: Pick<BodyOf<typeof api.documents.revise>, 'label' | 'changeKind' | 'toStage'>,
  revisions: RevisionRow[],
): string => {
  if (scheme.kind === 'own') {
    if (!input.label) throw refused('label_given_by_supplier');
    if (!canFollow(scheme, last, input.label) || revisions.some((r) => r.label === input.label))
      throw refused('label_not_after_last', { label: input.label, last });
    return input.label;
  }
  const next = nextLabel(scheme, last, input.changeKind, input.toStage);
  if (!next.ok) throw new RefusalError(next.refusals);
  return next.value;
};

export const abandon: HandlerOf<typeof api.documents.abandon, void> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'abandon', seen: input.seen }, async (work, opened) => {
    const revision = workOf(opened, 'abandon');
    if (opened.checkout) await endCheckout(work.trx, opened.checkout.id, work.now, 'abandoned');
    await endRoundsWithDraft(app, work, viewer, opened, revision, input.reason);
    await moveRevision(work.trx, revision, 'abandoned');
    await refreshLists(work.trx, opened.document.id, work.now);
    work.record({
      kind: 'revision.abandoned',
      subject: subjectOf(opened.document, revision),
      payload: { reason: input.reason },
    });
  });
