import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import { addMonths, type Command, decideCommand } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { cleanName } from '../../platform/http/upload.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import { takenRevision } from '../documents/choosing.ts';
import { renameByRule, sameFiles } from '../documents/nextFiles.ts';
import { findParent } from '../documents/parents.ts';
import { numberInput } from '../documents/registering.ts';
import {
  addVersion,
  allMetadata,
  filesOf,
  loadForUpdate,
  type Opened,
  openDocument,
  refreshLists,
  sameFile,
  situationOf,
  subjectOf,
  write,
} from '../documents/service.ts';
import { changeInWork } from '../effect/service.ts';
import { routeSituationOf } from '../rounds/service.ts';
import { blockRules } from '../rules/guard.ts';
import { getFolder, policyOf, takeNumber, voidNumber } from '../rules/service.ts';

const prepare = async (app: App, work: UnitOfWork, viewer: Viewer, ref: string, command: Command): Promise<Opened> => {
  const opened = await loadForUpdate(work, viewer, ref);
  const route = await routeSituationOf(app, work.trx, opened, viewer, work.day);
  assertAllowed(decideCommand(command, await situationOf(work.trx, opened, viewer, route)));
  return opened;
};

/** Gives a document another number while no revision has left draft. The old one is void for ever and says which it is now. */
export const renumber = (
  app: App,
  viewer: Viewer,
  ref: string,
  { number: named, reason }: BodyOf<typeof api.documents.renumber>,
): Promise<AnswerOf<typeof api.documents.renumber>> =>
  changeInWork(app, viewer, ref, async (work) => {
    await blockRules(work.trx);
    const opened = await prepare(app, work, viewer, ref, 'renumber');
    const { document, type } = opened;
    const [revision] = opened.revisions;
    if (!revision) throw refused('not_found');
    if (named === document.number) throw refused('number_same');
    const metadata = await numberInput(
      work.trx,
      type,
      await getFolder(work.trx, document.folder_id),
      allMetadata(document, revision),
      work.day,
      document.department_id ?? undefined,
      document.parent_number ?? undefined,
    );
    const number = await takeNumber(work.trx, { type, metadata, named, personId: viewer.id }, document.id);
    await voidNumber(work.trx, document.number, `now ${number}`);
    await write.setNumber(work.trx, document.id, number);
    if (opened.work) await renameByRule(work, { ...opened, document: { ...document, number } }, opened.work);
    await refreshLists(work.trx, document.id, work.now);
    work.record({
      kind: 'document.renumbered',
      subject: subjectOf({ id: document.id, number }, revision),
      payload: { before: document.number, after: number, reason },
    });
    return { number };
  });

/** Gives the stored main original another name, as the next version. */
export const renameFile = (
  app: App,
  viewer: Viewer,
  ref: string,
  wanted: string,
): Promise<AnswerOf<typeof api.documents.rename>> =>
  changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'rename file');
    const revision = opened.work;
    const name = cleanName(wanted);
    if (!name) throw refused('file_name_invalid');
    if (!revision?.latest_version_id) throw refused('not_found');
    const files = (await filesOf(work.trx, [revision.latest_version_id])).map(sameFile);
    const [main] = files;
    if (!main || main.name === name) throw refused('same_content', { n: revision.version_count });
    const version = await addVersion(work, revision, {
      files: files.map((file) => (file === main ? { ...file, name } : file)),
      note: `Renamed to ${name}`,
      title: revision.title,
      summary: revision.summary,
      metadata: revision.metadata,
    });
    await refreshLists(work.trx, opened.document.id, work.now);
    work.record({
      kind: 'file.renamed',
      subject: subjectOf(opened.document, revision),
      payload: { before: main.name, after: name, version: version.n },
    });
    return { version: version.n };
  });

/** Takes the content of another document as the next version of this one; both lifelines say so. */
export const replaceContent = (
  app: App,
  viewer: Viewer,
  ref: string,
  { from, note }: BodyOf<typeof api.documents.replace>,
): Promise<AnswerOf<typeof api.documents.replace>> =>
  changeInWork(app, viewer, ref, async (work) => {
    const opened = await prepare(app, work, viewer, ref, 'replace content');
    const { document } = opened;
    const revision = opened.work;
    if (!revision) throw refused('wrong_state', { command: 'replace content', state: 'none in work' });
    const seen = await findParent(work.trx, viewer, from, work.day);
    if (!seen) throw refused('parent_unknown', { number: from });
    if (seen.id === document.id) throw refused('replace_itself');
    const other = await openDocument(work.trx, viewer, seen.id, work.day);
    if (!other.rights.has('download')) throw refused('right_missing', { right: 'download' });
    const taken = takenRevision(other);
    const files = taken?.latest_version_id ? await filesOf(work.trx, [taken.latest_version_id]) : [];
    const originals = files.filter((file) => file.role === 'original').map(sameFile);
    if (!taken || originals.length === 0) throw refused('original_missing');
    const before = revision.latest_version_id ? await filesOf(work.trx, [revision.latest_version_id]) : [];
    if (sameFiles(originals, before)) throw refused('same_content', { n: revision.version_count });
    const version = await addVersion(work, revision, {
      files: [...originals, ...before.filter((file) => file.role === 'attachment').map(sameFile)],
      note,
      title: revision.title,
      summary: revision.summary,
      metadata: revision.metadata,
    });
    if (opened.work)
      await renameByRule(work, opened, { ...revision, latest_version_id: version.id, version_count: version.n });
    await refreshLists(work.trx, document.id, work.now);
    const files_ = originals.map(({ name, sha256 }) => ({ name, sha256 }));
    work.record({
      kind: 'content.replaced',
      subject: subjectOf(document, revision),
      payload: { from: `${seen.number} ${taken.label}`.trim(), version: version.n, files: files_, note },
    });
    work.record({
      kind: 'content.given',
      subject: subjectOf(seen, taken),
      payload: { to: document.number, version: version.n },
    });
    return { version: version.n };
  });

/** It was looked at where it comes from; the next look is due after the interval of its type. */
export const checkSource = (
  app: App,
  viewer: Viewer,
  ref: string,
  { edition, isNewer, note }: BodyOf<typeof api.documents.checkSource>,
): Promise<AnswerOf<typeof api.documents.checkSource>> =>
  changeInWork(app, viewer, ref, async (work) => {
    const opened = await loadForUpdate(work, viewer, ref);
    const { document, type, revisions } = opened;
    const route = await routeSituationOf(app, work.trx, opened, viewer, work.day);
    // Whoever watches it may say what they found, whatever else they may do with it.
    if (document.origin_watcher !== viewer.id)
      assertAllowed(decideCommand('check source', await situationOf(work.trx, opened, viewer, route)));
    const months = policyOf(type).origin?.checkMonths ?? 12;
    const checkOn = addMonths(work.day, months);
    await write.setCheckDay(work.trx, document.id, checkOn, isNewer ? document.origin_edition : edition);
    work.record({
      kind: 'source.checked',
      subject: subjectOf(document, revisions[0]),
      payload: {
        source: document.origin_source,
        had: document.origin_edition,
        found: edition,
        isNewer,
        note,
        next: checkOn,
      },
    });
    return { checkOn };
  });
