import { changeNoteBlockers, decideRevisingUnder, type Refusal } from '@kanonos/core';
import type { UnitOfWork } from '../../platform/app.ts';
import type { Trx } from '../../platform/db/connect.ts';
import { assertAllowed } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { openDocument } from '../documents/index.ts';
import type { RevisionRow } from '../revisions/index.ts';
import { policyOf, type TypeRow } from '../rules/index.ts';
import { ensureNote } from './service.ts';
import * as store from './store.ts';

/** The note that a revision is to begin under, as the type allows and asks; nothing where it begins without one. */
export const noteToBeginUnder = async (
  work: UnitOfWork,
  viewer: Viewer,
  type: TypeRow,
  number: string | null,
): Promise<{ id: string; number: string } | undefined> => {
  const note = number === null ? undefined : await openDocument(work.trx, viewer, number, work.day);
  if (note) ensureNote(note);
  const facts = note && (await store.findFacts(work.trx, note.document.id));
  assertAllowed(decideRevisingUnder(policyOf(type).changeNote, facts));
  return note && { id: note.document.id, number: note.document.number };
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
