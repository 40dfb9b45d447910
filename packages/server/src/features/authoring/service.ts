import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import {
  type Act,
  decideAct,
  type Facts,
  type FieldDefinition,
  hasRight,
  isFolderShut,
  splitFacts,
} from '@kanonos/core';
import type { App, Work } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { ensureAllowed, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import {
  addVersion,
  allFacts,
  filesOf,
  getUpload,
  type NewFile,
  type Opened,
  openForAct,
  type RevisionRow,
  refreshLists,
  situationOf,
  subjectOf,
  versionsOf,
  write,
} from '../documents/service.ts';
import { actOn } from '../effect/service.ts';
import { namesOf } from '../people/service.ts';
import { ensureFacts } from '../rules/facts.ts';
import { moveOn, routeFactsOf } from '../runs/service.ts';
import { recordUsage } from '../usage/service.ts';

/** Opens a document for an act, settles what is due, and refuses by the rule of the act. */
const prepare = async (
  app: App,
  work: Work,
  viewer: Viewer,
  ref: string,
  act: Act,
): Promise<Opened & { revision: RevisionRow }> => {
  const opened = await openForAct(work, viewer, ref);
  ensureAllowed(
    decideAct(
      act,
      await situationOf(work.trx, opened, viewer, await routeFactsOf(app, work.trx, opened, viewer, work.day)),
    ),
  );
  if (!opened.work) throw refused('wrong_state', { act, state: 'none in work' });
  return { ...opened, revision: opened.work };
};

/** Reserves the document; of two at once one wins and the other is told who (row lock and unique index). */
export const checkOut = async (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<typeof api.documents.checkOut>,
): Promise<AnswerOf<typeof api.documents.checkOut>> => {
  const taken = await actOn(app, viewer, ref, async (work) => {
    const { document, revision } = await prepare(app, work, viewer, ref, 'check out');
    await write.insertCheckout(work.trx, {
      id: newId(),
      documentId: document.id,
      revisionId: revision.id,
      personId: viewer.id,
      now: work.now,
      note: input.note,
      expectedBack: input.expectedBack,
    });
    work.record({
      kind: 'revision.checked-out',
      subject: subjectOf(document, revision),
      payload: { expectedBack: input.expectedBack, note: input.note },
    });
    const [file] = revision.latest_version_id ? await filesOf(work.trx, [revision.latest_version_id]) : [];
    return { document, revision, file };
  });
  if (taken.file)
    await recordUsage(app, {
      personId: viewer.id,
      documentId: taken.document.id,
      revisionId: taken.revision.id,
      version: taken.revision.version_count,
      fileId: taken.file.id,
      act: 'handed out',
    });
  return { fileId: taken.file?.id ?? null };
};

const samePlace = (files: readonly NewFile[], before: { role: string; sha256: string }[]) =>
  files
    .filter((f) => f.role === 'original')
    .every((file) => before.some((old) => old.role === 'original' && old.sha256 === file.sha256));

/** Gives the document back with a note: the next version, with facts corrected in the same step. */
export const checkIn = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<typeof api.documents.checkIn>,
): Promise<{ version: number }> =>
  actOn(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'check in');
    const { document, revision, checkout } = opened;
    if (!checkout) throw refused('not_checked_out');
    const before = revision.latest_version_id ? await filesOf(work.trx, [revision.latest_version_id]) : [];
    let files: NewFile[] = before.map((file) => ({
      role: file.role === 'attachment' ? 'attachment' : 'original',
      name: file.name,
      sha256: file.sha256,
      size: file.size,
    }));
    if (input.uploadId) {
      const upload = await getUpload(work.trx, viewer, input.uploadId);
      if (!(await app.content.has(upload.sha256))) throw refused('content_missing', { name: upload.name });
      files = [
        { role: 'original', name: upload.name, sha256: upload.sha256, size: upload.size },
        ...files.filter((file) => file.role === 'attachment'),
      ];
    }
    const facts = await correctedFacts(work, opened, revision, input.facts);
    const sameFacts =
      JSON.stringify(facts.signed) === JSON.stringify(revision.facts) &&
      (input.title ?? revision.title) === revision.title &&
      (input.summary ?? revision.summary) === revision.summary;
    if (samePlace(files, before) && !input.sameContentMeant && (input.uploadId || sameFacts))
      throw refused('same_content', { n: revision.version_count });
    const version = await addVersion(work, revision, {
      files,
      note: input.note,
      title: input.title ?? revision.title,
      summary: input.summary ?? revision.summary,
      facts: facts.signed,
    });
    await saveLiving(work, opened, facts.living);
    await write.endCheckout(work.trx, checkout.id, work.now, 'checked in');
    await refreshLists(work.trx, document.id, work.now);
    work.record({
      kind: 'version.checked-in',
      subject: subjectOf(document, revision),
      payload: {
        version: version.n,
        note: input.note,
        files: files.map((file) => ({ role: file.role, name: file.name, sha256: file.sha256 })),
        ...(input.facts ? { facts: input.facts } : {}),
        title: input.title ?? revision.title,
      },
    });
    await moveOn(app, work, { ...opened, checkout: undefined });
    return { version: version.n };
  });

const correctedFacts = async (
  work: Work,
  { document, type }: Opened,
  revision: RevisionRow,
  given: Facts | undefined,
): Promise<{ signed: Facts; living: Facts | undefined }> => {
  if (!given) return { signed: revision.facts, living: undefined };
  const before = allFacts(document, revision);
  await ensureFacts(work.trx, type, given, before, document.id);
  return splitFacts(type.fields, { ...before, ...given });
};

const saveLiving = async (work: Work, { document }: Opened, living: Facts | undefined) => {
  if (!living || JSON.stringify(living) === JSON.stringify(document.facts)) return;
  await write.changeDocument(work.trx, {
    id: document.id,
    facts: living,
    keywords: document.keywords,
    ownerId: document.owner_id,
    reviewOn: document.review_on,
    now: work.now,
    rowVersion: document.row_version,
  });
};

/** Ends one's own check-out without a trace in content. */
export const giveUp = (app: App, viewer: Viewer, ref: string): Promise<void> =>
  actOn(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'give up check-out');
    if (opened.checkout) await write.endCheckout(work.trx, opened.checkout.id, work.now, 'given up');
    work.record({ kind: 'check-out.given-up', subject: subjectOf(opened.document, opened.revision) });
    await moveOn(app, work, { ...opened, checkout: undefined });
  });

/** Makes an older version the newest: as a new version, so that nothing of the way is lost. */
export const makeNewest = (
  app: App,
  viewer: Viewer,
  ref: string,
  versionId: string,
  note: string,
): Promise<{ version: number }> =>
  actOn(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'correct facts');
    const { document, revision } = opened;
    const older = (await versionsOf(work.trx, revision.id)).find((version) => version.id === versionId);
    if (!older) throw refused('not_found');
    if (older.id === revision.latest_version_id) throw refused('same_content', { n: older.n });
    const files = await filesOf(work.trx, [older.id]);
    const version = await addVersion(work, revision, {
      files: files.map((file) => ({
        role: file.role === 'attachment' ? 'attachment' : 'original',
        name: file.name,
        sha256: file.sha256,
        size: file.size,
      })),
      note: note || `Version ${older.n} made the newest`,
      title: older.title,
      summary: revision.summary,
      facts: older.facts,
    });
    await refreshLists(work.trx, document.id, work.now);
    work.record({
      kind: 'version.made-newest',
      subject: subjectOf(document, revision),
      payload: { from: older.n, version: version.n, note },
    });
    return { version: version.n };
  });

/** Corrects signed facts of a draft and living facts of the document; living ones with a reason, at any time. */
export const correctFacts = (
  app: App,
  viewer: Viewer,
  ref: string,
  input: BodyOf<typeof api.documents.correctFacts>,
): Promise<{ rowVersion: number }> =>
  actOn(app, viewer, ref, async (work) => {
    const opened = await openForAct(work, viewer, ref);
    const { document, type } = opened;
    const revision = opened.work ?? opened.inForce ?? opened.revisions[0];
    if (!revision) throw refused('not_found');
    const before = allFacts(document, revision);
    await ensureFacts(work.trx, type, input.facts, before, document.id);
    // Facts that the type asks no more stay as they are.
    const unasked = Object.entries(before).filter(([key]) => !type.fields.some((field) => field.key === key));
    const { signed, living } = apartAsBefore(
      type.fields,
      { ...Object.fromEntries(unasked), ...input.facts },
      revision.facts,
    );
    const signedChange =
      input.title !== revision.title ||
      input.summary !== revision.summary ||
      JSON.stringify(sorted(signed)) !== JSON.stringify(sorted(revision.facts));
    const livingChange =
      JSON.stringify(sorted(living)) !== JSON.stringify(sorted(document.facts)) ||
      input.keywords.join('\n') !== document.keywords.join('\n') ||
      input.ownerId !== document.owner_id ||
      input.reviewOn !== document.review_on;
    if (signedChange) {
      ensureAllowed(
        decideAct(
          'correct facts',
          await situationOf(work.trx, opened, viewer, await routeFactsOf(app, work.trx, opened, viewer, work.day)),
        ),
      );
      if (
        (await write.changeRevision(work.trx, {
          id: revision.id,
          title: input.title,
          summary: input.summary,
          facts: signed,
          rowVersion: input.revisionRowVersion,
        })) === 0
      )
        throw refused('changed_meanwhile');
    }
    if (livingChange) {
      const draft = revision.state === 'draft' && hasRight(opened.rights, 'author');
      if (!hasRight(opened.rights, 'manage') && !draft) throw refused('right_missing', { right: 'manage' });
      if (isFolderShut(document.folder_state))
        throw refused('folder_shut', { folder: document.folder_name, state: document.folder_state });
      if (!input.reason && !draft) throw refused('reason_missing');
      const owner = (await namesOf(work.trx, [input.ownerId])).get(input.ownerId);
      if (!owner || (input.ownerId !== document.owner_id && owner.state === 'deactivated')) throw refused('not_found');
      const saved = await write.changeDocument(work.trx, {
        id: document.id,
        facts: living,
        keywords: input.keywords,
        ownerId: input.ownerId,
        reviewOn: input.reviewOn,
        now: work.now,
        rowVersion: input.rowVersion,
      });
      if (saved === 0) throw refused('changed_meanwhile');
    }
    if (signedChange || livingChange) {
      await refreshLists(work.trx, document.id, work.now);
      work.record({
        kind: 'facts.corrected',
        subject: subjectOf(document, revision),
        payload: {
          before: {
            title: revision.title,
            summary: revision.summary,
            facts: allFacts(document, revision),
            keywords: document.keywords,
            owner: document.owner_name,
            reviewOn: document.review_on,
          },
          after: {
            title: input.title,
            summary: input.summary,
            facts: input.facts,
            keywords: input.keywords,
            owner: (await namesOf(work.trx, [input.ownerId])).get(input.ownerId)?.name ?? '',
            reviewOn: input.reviewOn,
          },
          reason: input.reason,
        },
      });
    }
    return { rowVersion: livingChange ? input.rowVersion + 1 : input.rowVersion };
  });

/** Signed and living facts apart; one that the type asks no more stays where it was. */
const apartAsBefore = (fields: readonly FieldDefinition[], facts: Facts, signedBefore: Facts) => {
  const gone = Object.keys(signedBefore).filter((key) => !fields.some((field) => field.key === key));
  const { signed, living } = splitFacts(fields, facts);
  for (const key of gone) delete (living as Record<string, unknown>)[key];
  return { signed: { ...signed, ...Object.fromEntries(gone.map((key) => [key, signedBefore[key] ?? null])) }, living };
};

const sorted = (facts: Facts) => Object.entries(facts).sort(([a], [b]) => (a < b ? -1 : 1));
