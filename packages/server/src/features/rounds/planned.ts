import { type AnswerOf, type api, type BodyOf, type PlannedRound, sentenceOf } from '@kanonos/contract';
import { dayInWords, dayOf, decidePlannedDay, hasRight, type Refusal } from '@kanonos/core';
import { documentAddress } from '../../platform/addresses.ts';
import { type App, SYSTEM_CLOCK } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import { actorOf, type HandlerOf, type Viewer, viewerOf } from '../access/index.ts';
import { getStored } from '../content/index.ts';
import { lockDocument, type Opened, openDocument, rightToRead, runCommand, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import { beginAdHocRound, checkAdHocRound, meantRevision } from './adHoc.ts';
import * as store from './storePlanned.ts';

/** Whoever planned it, and document control, may cancel it. */
const mayCancel = (row: store.PlannedRow, viewer: Viewer, { rights }: Pick<Opened, 'rights'>): boolean =>
  row.by_id === viewer.id || hasRight(rights, 'release') || hasRight(rights, 'manage');

/** The rounds that will begin on a day, on revisions that the viewer may read. */
export const plannedRounds = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.adHocRounds.planned>> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  const isSeen = (row: store.PlannedRow) => {
    const revision = opened.revisions.find(({ id }) => id === row.revision_id);
    return revision !== undefined && hasRight(opened.rights, rightToRead(revision.state));
  };
  const rounds = (await store.listPlannedOf(app.db, opened.document.id)).filter(isSeen).map(
    (row): PlannedRound => ({
      id: row.id,
      label: row.label,
      name: row.name,
      on: row.starts_on,
      by: { id: row.by_id, name: row.by_name },
      mayCancel: mayCancel(row, viewer, opened),
    }),
  );
  return { rounds };
};

/** Plans a round that begins on a day. All that stands against it now is told now; nobody is asked before. */
export const planRound: HandlerOf<typeof api.adHocRounds.plan> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    assertAllowed(decidePlannedDay(input.on, work.day));
    const revision = meantRevision(opened, input.revisionId);
    const { on, uploads, ...asked } = input;
    await checkAdHocRound(app, work, opened, revision, { ...asked, uploads: [] }, on);
    const files: store.PlannedFile[] = [];
    for (const uploadId of new Set(uploads)) {
      const { name, sha256 } = await getStored(app, work.trx, viewer, uploadId);
      files.push({ name, sha256 });
    }
    const id = newId();
    const { document } = opened;
    await store.insertPlanned(work.trx, {
      id,
      documentId: document.id,
      revisionId: revision.id,
      by: viewer.id,
      now: work.now,
      startsOn: on,
      name: input.name,
      asked,
      files,
    });
    work.record({ kind: 'round.planned', subject: subjectOf(document, revision), payload: { name: input.name, on } });
    return { id };
  });

/** Cancels a round before its day. */
export const cancelPlanned = async (
  app: App,
  viewer: Viewer,
  id: string,
  { reason }: BodyOf<typeof api.adHocRounds.cancelPlanned>,
): Promise<void> => {
  const named = await store.findPlanned(app.db, id);
  if (!named) throw refused('not_found');
  await runCommand(app, viewer, { document: named.document_id }, async (work, opened) => {
    const row = await store.findPlanned(work.trx, id);
    if (!row || row.ended_at || !mayCancel(row, viewer, opened)) throw refused('not_found');
    await store.endPlanned(work.trx, { id, now: work.now, cancelled: reason });
    work.record({
      kind: 'round.plan-ended',
      subject: subjectOf(opened.document, { id: row.revision_id, label: row.label }),
      payload: { name: row.name, on: row.starts_on, why: reason },
    });
  });
};

/** The clock's job: begins the rounds whose day has come, each in the name of whoever planned it. */
export const startPlannedRounds = async (app: App): Promise<number> => {
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  return eachOnItsOwn(
    app,
    'planned round',
    await store.listPlannedDue(app.db, day),
    ({ id, number, document_id }) => ({ subject: id, label: number, documentId: document_id }),
    (row) => startOne(app, row, day),
  );
};

const startOne = async (app: App, { id, by_id, document_id }: store.PlannedRow, day: string): Promise<void> => {
  try {
    const viewer = await viewerOf(app.db, by_id, day);
    await app.command(actorOf(viewer), async (work) => {
      await lockDocument(work.trx, document_id);
      const row = await store.findPlanned(work.trx, id);
      // Cancelled or begun since it was listed.
      if (!row || row.ended_at) return;
      const opened = await openDocument(work.trx, viewer, document_id, work.day);
      const asked = row.asked as Parameters<typeof beginAdHocRound>[4];
      const round = await beginAdHocRound(app, work, viewer, opened, asked, row.files);
      await store.endPlanned(work.trx, { id, now: work.now, roundId: round.id });
    });
  } catch (error) {
    if (!(error instanceof RefusalError)) throw error;
    await couldNotStart(app, id, error.refusals);
  }
};

/** What could not begin on its day is told to whoever planned it, and not tried again. */
const couldNotStart = (app: App, id: string, problems: readonly Refusal[]): Promise<void> =>
  app.command(SYSTEM_CLOCK, async (work) => {
    const row = await store.findPlanned(work.trx, id);
    if (!row || (await store.endPlanned(work.trx, { id, now: work.now, problems })) === 0) return;
    const why = problems.map(({ code, params }) => sentenceOf(code, params)).join(' ');
    work.record({
      kind: 'round.plan-ended',
      subject: subjectOf({ id: row.document_id, number: row.number }, { id: row.revision_id, label: row.label }),
      payload: { name: row.name, on: row.starts_on, why },
    });
    await notify(app, work, [row.by_id], {
      kind: 'task',
      about: row.document_id,
      subject: `${row.number}: the round ${row.name} could not begin`,
      lead: `It was planned for ${dayInWords(row.starts_on)}.`,
      quote: why,
      link: { path: documentAddress(row.number), label: 'Open the document' },
    });
  });
