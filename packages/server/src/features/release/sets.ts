import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import type { Command } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import { actorOf, type Viewer } from '../access/index.ts';
import { applyWhatIsDue, findDocument, type Opened, openForCommand, workOf } from '../documents/index.ts';
import { reviseIn } from './revise.ts';
import { releaseIn } from './service.ts';

type Member = { id: string; seen: string };
type Outcome = AnswerOf<typeof api.changes.releaseSet>;

/** Leaves the transaction of a set of which something was refused: nothing of it stays. */
class SetRefused extends Error {
  readonly documents: Outcome['documents'];
  constructor(documents: Outcome['documents']) {
    super('a member of a set was refused');
    this.documents = documents;
  }
}

/**
 * One command on several documents, all or none, in one transaction. Documents are locked in the order of their ids, so that two sets with
 * common members wait for each other and never for ever. Every member is tried: the answer names what stands against each.
 */
const onSet = async (
  app: App,
  viewer: Viewer,
  command: Command,
  members: readonly Member[],
  act: (work: UnitOfWork, opened: Opened) => Promise<unknown>,
): Promise<Outcome> => {
  const sorted = [...new Map(members.map((member) => [member.id, member])).values()].sort((a, b) =>
    a.id.localeCompare(b.id),
  );
  try {
    for (const { id } of sorted) await applyWhatIsDue(app, id);
    return await app.command(actorOf(viewer), async (work) => {
      const documents: Outcome['documents'] = [];
      for (const { id, seen } of sorted) {
        let number = '';
        try {
          const opened = await openForCommand(app, work, viewer, { document: id, command, seen });
          number = opened.document.number;
          await act(work, opened);
          documents.push({ id, number, refusals: [] });
        } catch (error) {
          if (!(error instanceof RefusalError)) throw error;
          documents.push({ id, number, refusals: [...error.refusals] });
        }
      }
      if (documents.some((one) => one.refusals.length > 0)) throw new SetRefused(documents);
      return { done: true, documents };
    });
  } catch (error) {
    if (!(error instanceof SetRefused)) throw error;
    return { done: false, documents: await named(app, error.documents) };
  }
};

/** A refused member is named, unless it was refused because the viewer may not see it. */
const named = async (app: App, documents: Outcome['documents']): Promise<Outcome['documents']> => {
  const all = [];
  for (const one of documents) {
    const isHidden = one.refusals.some(({ code }) => code === 'not_found');
    const number = one.number || (isHidden ? '' : ((await findDocument(app.db, one.id))?.number ?? ''));
    all.push({ ...one, number });
  }
  return all;
};

/** Begins the next revision of several documents under a change note, each from what is in force. */
export const reviseSet = (
  app: App,
  viewer: Viewer,
  { documents, changeNote, changeKind, reason }: BodyOf<typeof api.changes.reviseSet>,
): Promise<Outcome> =>
  onSet(app, viewer, 'revise', documents, (work, opened) =>
    reviseIn(app, work, viewer, opened, { changeNote, changeKind, reason, summary: '', uploadId: null, label: null }),
  );

/** Releases several approved revisions at one instant, or all on one day. What is signed on release is released by itself. */
export const releaseSet = async (
  app: App,
  viewer: Viewer,
  { documents, on }: BodyOf<typeof api.changes.releaseSet>,
): Promise<Outcome> =>
  onSet(app, viewer, 'release', documents, async (work, opened) => {
    if (workOf(opened, 'release').state === 'draft')
      throw refused('released_alone', { number: opened.document.number });
    await releaseIn(app, work, viewer, opened, { on, checked: undefined });
  });
