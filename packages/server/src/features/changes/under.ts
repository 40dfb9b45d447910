import { changeNoteBlockers, decideRevisingUnder, type Refusal } from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { openDocument, subjectOf } from '../documents/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { policyOf, type TypeRow } from '../rules/index.ts';
import { ensureNote, mayChange } from './service.ts';
import * as store from './store.ts';

/** The note that a revision is to begin under, as the type allows and asks; nothing where it begins without one. */
export const noteToBeginUnder = async (
  work: UnitOfWork,
  viewer: Viewer,
  type: TypeRow,
  number: string | null,
): Promise<{ id: string; number: string } | undefined> => {
  const note = number === null ? undefined : await openDocument(work.trx, viewer, number, work.day);
  if (note) {
    ensureNote(note);
    await store.keepOpen(work.trx, note.document.id);
  }
  const facts = note && (await store.findFacts(work.trx, note.document.id));
  assertAllowed(decideRevisingUnder(policyOf(type).changeNote, facts));
  return note && { id: note.document.id, number: note.document.number };
};

/** The open note that a change request becomes a part of; whoever answers must be able to change it. */
export const noteToAnswerWith = async (
  work: UnitOfWork,
  viewer: Viewer,
  number: string | null,
): Promise<{ id: string; number: string }> => {
  if (!number) throw refused('change_note_needed');
  const note = await openDocument(work.trx, viewer, number, work.day);
  ensureNote(note);
  if (!mayChange(note, viewer)) throw refused('right_missing', { right: 'author' });
  await store.keepOpen(work.trx, note.document.id);
  if (await store.findClosing(work.trx, note.document.id))
    throw refused('change_note_closed', { number: note.document.number });
  return { id: note.document.id, number: note.document.number };
};

/** Names a document as affected by a note, with what somebody asked for. */
export const nameAffected = async (
  work: UnitOfWork,
  viewer: Viewer,
  note: { id: string; number: string },
  document: { id: string; number: string },
  what: string,
): Promise<void> => {
  const given = {
    noteId: note.id,
    documentId: document.id,
    way: 'picked' as const,
    what,
    by: viewer.id,
    now: work.now,
  };
  if ((await store.insertAffected(work.trx, given)) > 0)
    work.record({
      kind: 'change-note.documents-added',
      subject: subjectOf(note),
      payload: { numbers: [document.number], way: 'picked' },
    });
};

/** Puts a revision under a note; its document is affected by it from now on, if it was not. */
export const putUnder = async (
  work: UnitOfWork,
  viewer: Viewer,
  { noteId, documentId, revisionId }: { noteId: string; documentId: string; revisionId: string },
): Promise<void> => {
  await store.setNoteOf(work.trx, { revisionId, noteId });
  await store.insertAffected(work.trx, { noteId, documentId, way: 'revised', what: '', by: viewer.id, now: work.now });
};

/** What of its change note prevents the release of a revision. A first issue needs none. */
export const blockersOfNote = async (
  trx: Trx,
  type: TypeRow,
  revision: Pick<RevisionRow, 'id' | 'change_kind'>,
): Promise<Refusal[]> => {
  const { changeNote, changeNoteDemand } = policyOf(type);
  const under = await store.findNoteOf(trx, revision.id);
  const facts = under && (await store.findFacts(trx, under.change_note_id));
  return changeNoteBlockers(changeNoteDemand, facts, changeNote === 'must' && revision.change_kind !== 'first issue');
};
