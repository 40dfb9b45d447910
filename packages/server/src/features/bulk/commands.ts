import { type AnswerOf, type api, type BodyOf, BULK_MOST, sentenceOf } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { RefusalError, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { checkOut } from '../authoring/index.ts';
import { rememberUpload } from '../content/index.ts';
import { openDocument, takenRevision } from '../documents/index.ts';
import { idsOf } from '../find/index.ts';
import { registerIn } from '../registration/index.ts';
import { listFiles } from '../revisions/index.ts';
import { submit } from '../rounds/index.ts';

type Answer = AnswerOf<typeof api.bulk.submit>;

/** Does a command on one document after the other, each whole in itself; those that are refused are named with the reason. */
const eachOf = async (
  app: App,
  viewer: Viewer,
  ids: readonly string[],
  command: (id: string, day: string) => Promise<{ number: string; made?: string }>,
): Promise<Answer> => {
  const answer: Answer = { done: [], refused: [] };
  const day = dayOf(app.clock(), (await app.organisation()).zone);
  for (const id of ids) {
    try {
      answer.done.push({ id, made: null, ...(await command(id, day)) });
    } catch (error) {
      if (!(error instanceof RefusalError)) throw error;
      const number = await openDocument(app.db, viewer, id, day).then(
        (opened) => opened.document.number,
        () => '',
      );
      answer.refused.push({ id, number, reasons: error.refusals.map((one) => sentenceOf(one.code, one.params)) });
    }
  }
  return answer;
};

/** Sends drafts on their way, each by the route of its type. */
export const submitMany = (
  app: App,
  viewer: Viewer,
  { ids, message, chosen }: BodyOf<typeof api.bulk.submit>,
): Promise<Answer> =>
  eachOf(app, viewer, ids, async (id, day) => {
    const { document } = await openDocument(app.db, viewer, id, day);
    await submit(app, viewer, id, { seen: '*', message, chosen });
    return { number: document.number };
  });

/** Checks documents out, each as if alone. */
export const checkOutMany = (
  app: App,
  viewer: Viewer,
  { ids, note, expectedBack }: BodyOf<typeof api.bulk.checkOut>,
): Promise<Answer> =>
  eachOf(app, viewer, ids, async (id, day) => {
    const { document } = await openDocument(app.db, viewer, id, day);
    await checkOut(app, viewer, id, { seen: '*', note, expectedBack });
    return { number: document.number };
  });

/** The documents that a filter finds, for commands over a whole search. */
export const idsFound = async (
  app: App,
  viewer: Viewer,
  { filter }: BodyOf<typeof api.bulk.ids>,
): Promise<{ ids: string[] }> => {
  const ids = await idsOf(app, viewer, filter, BULK_MOST + 1);
  if (ids.length === 0) throw refused('bulk_nothing');
  if (ids.length > BULK_MOST) throw refused('bulk_too_many', { limit: BULK_MOST });
  return { ids };
};

/** Registers a new document from each: its metadata and content, not its history. */
export const copyMany = (app: App, viewer: Viewer, { ids, folderId }: BodyOf<typeof api.bulk.copy>): Promise<Answer> =>
  eachOf(app, viewer, ids, (id) =>
    app.command(actorOf(viewer), async (work) => {
      const opened = await openDocument(work.trx, viewer, id, work.day);
      const { document, type } = opened;
      const revision = takenRevision(opened);
      const files = revision?.latest_version_id ? await listFiles(work.trx, [revision.latest_version_id]) : [];
      const originals = files.filter((file) => file.role === 'original');
      if (!revision || originals.length === 0) throw refused('original_missing');
      if (!opened.rights.has('download')) throw refused('right_missing', { right: 'download' });
      if (type.numbering_rule === null) throw refused('external_number_missing');
      const uploads = [];
      for (const { name, sha256, description, language, sheet } of originals) {
        const upload = { id: newId(), sha256, name };
        await rememberUpload(work, viewer, upload);
        uploads.push({ uploadId: upload.id, description, language, sheet });
      }
      const [main, ...more] = uploads;
      const { uploadId = null, ...about } = main ?? {};
      const unique = new Set(type.fields.filter((field) => field.unique).map((field) => field.key));
      const keys = new Set(type.fields.map((field) => field.key));
      const metadata = Object.entries({ ...document.metadata, ...revision.metadata }).filter(
        ([key]) => keys.has(key) && !unique.has(key),
      );
      const made = await registerIn(app, work, viewer, {
        typeId: type.id,
        folderId: type.filing_rule ? null : (folderId ?? document.folder_id),
        title: revision.title,
        metadata: Object.fromEntries(metadata),
        uploadId,
        about,
        more,
        parent: document.parent_number,
        sites: document.sites,
        location: document.location,
        confidentiality: document.confidentiality,
        reviewEvery: document.review_every,
        keywords: document.keywords,
        note: `Copied from ${document.number} ${revision.label}`.trim(),
      });
      return { number: document.number, made: made.number };
    }),
  );
