import type { AnswerOf, api, BodyOf } from '@kanonos/contract';
import { addMonths } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { cleanName } from '../../platform/http/upload.ts';
import { refused } from '../../platform/refused.ts';
import type { HandlerOf, Viewer } from '../access/index.ts';
import {
  allMetadata,
  assertCommand,
  findParent,
  openDocument,
  refreshLists,
  renameByRule,
  runCommand,
  sameFiles,
  setCheckDay,
  setNumber,
  subjectOf,
  takenRevision,
  workOf,
} from '../documents/index.ts';
import { numberInput } from '../registration/index.ts';
import { addVersion, listFiles, sameFile } from '../revisions/index.ts';
import { blockRules, getFolder, policyOf, takeNumber, voidNumber } from '../rules/index.ts';

/** Gives a document another number while no revision has left draft. The old one is void for ever and refers to the new one. */
export const renumber = (
  app: App,
  viewer: Viewer,
  ref: string,
  { number: named, reason, seen }: BodyOf<typeof api.documents.renumber>,
): Promise<AnswerOf<typeof api.documents.renumber>> =>
  runCommand(app, viewer, { document: ref, command: 'renumber', seen, first: blockRules }, async (work, opened) => {
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
    await setNumber(work.trx, document.id, number);
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
export const renameFile: HandlerOf<typeof api.documents.rename> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'rename file', seen: input.seen }, async (work, opened) => {
    const revision = opened.work;
    const name = cleanName(input.name);
    if (!name) throw refused('file_name_invalid');
    if (!revision?.latest_version_id) throw refused('not_found');
    const files = (await listFiles(work.trx, [revision.latest_version_id])).map(sameFile);
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

/** Takes the content of another document as the next version of this one; both histories record it. */
export const replaceContent: HandlerOf<typeof api.documents.replace> = (app, viewer, ref, input) =>
  runCommand(app, viewer, { document: ref, command: 'replace content', seen: input.seen }, async (work, opened) => {
    const { from, note } = input;
    const { document } = opened;
    const revision = workOf(opened, 'replace content');
    const seen = await findParent(work.trx, viewer, from, work.day);
    if (!seen) throw refused('parent_unknown', { number: from });
    if (seen.id === document.id) throw refused('replace_itself');
    const other = await openDocument(work.trx, viewer, seen.id, work.day);
    if (!other.rights.has('download')) throw refused('right_missing', { right: 'download' });
    const taken = takenRevision(other);
    const files = taken?.latest_version_id ? await listFiles(work.trx, [taken.latest_version_id]) : [];
    const originals = files.filter((file) => file.role === 'original').map(sameFile);
    if (!taken || originals.length === 0) throw refused('original_missing');
    const before = revision.latest_version_id ? await listFiles(work.trx, [revision.latest_version_id]) : [];
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
  runCommand(app, viewer, { document: ref }, async (work, opened) => {
    const { document, type, revisions } = opened;
    // Its watchers may record what they found, whatever other rights they have.
    if (document.origin_watcher !== viewer.id) await assertCommand(app, work, viewer, opened, 'check source');
    const months = policyOf(type).origin?.checkMonths ?? 12;
    const checkOn = addMonths(work.day, months);
    await setCheckDay(work.trx, document.id, checkOn, isNewer ? document.origin_edition : edition);
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
