import { readFile } from 'node:fs/promises';
import type { AnswerOf, api, ComparedSide, VersionChange } from '@kanonos/contract';
import { compareTexts, dayOf, hasRight, showFieldValue, type TextBlock, textOfBlocks, titlesOf } from '@kanonos/core';
import { zipSync } from 'fflate';
import type { App } from '../../platform/app.ts';
import { showOf } from '../../platform/content/kind.ts';
import { parse } from '../../platform/parsing/index.ts';
import { refused } from '../../platform/refused.ts';
import { lookerOf, type Viewer } from '../access/index.ts';
import { findText } from '../content/index.ts';
import { handOut, type Opened, openDocument, openFile } from '../documents/index.ts';
import {
  fieldChanges,
  listFiles,
  listVersions,
  predecessorOf,
  type RevisionRow,
  visibleRevisions,
} from '../revisions/index.ts';
import { namesInMetadata } from '../rules/index.ts';
import { eachOnItsOwn } from '../system/index.ts';
import { recordUsage } from '../usage/index.ts';
import * as store from './store.ts';

type Row = Awaited<ReturnType<typeof store.listVersionsOfAll>>[number];

/** Versions of work are the authors' business: who may not read work sees of each released revision the last one. */
const mayRead = (opened: Opened, revision: RevisionRow, versionId: string): boolean =>
  opened.rights.has('read work') ||
  (revision.latest_version_id === versionId &&
    hasRight(opened.rights, revision.state === 'in force' ? 'read' : 'read past'));

const toSide = (revision: RevisionRow, version: Row): ComparedSide => ({
  versionId: version.id,
  n: version.n,
  label: revision.label,
  state: revision.state,
  note: version.note,
  by: { id: version.by_id, name: version.by_name },
  at: version.at.toISOString(),
});

/** All versions that a viewer may set beside each other, and the two that are compared unless others are wished. */
export const comparedSides = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.comparison.sides>> => {
  const opened = await openDocument(app.db, viewer, ref, dayOf(app.clock(), (await app.organisation()).zone));
  const revisions = visibleRevisions(opened.revisions, opened.rights);
  const byId = new Map(revisions.map((revision) => [revision.id, revision]));
  const sides = (await store.listVersionsOfAll(app.db, [...byId.keys()])).flatMap((version) => {
    const revision = byId.get(version.revision_id);
    return revision && mayRead(opened, revision, version.id) ? [{ ...toSide(revision, version), revision }] : [];
  });
  const [newest] = sides;
  const before = newest && predecessorOf(revisions, newest.revision);
  const old =
    sides.find((side) => side.versionId === before?.latest_version_id) ??
    sides.find((side) => side.revision === newest?.revision && side.n < (newest?.n ?? 0));
  const shown = opened.rights.has('read work') ? opened.revisions[0] : opened.inForce;
  return {
    document: {
      id: opened.document.id,
      number: opened.document.number,
      title: shown?.title ?? newest?.revision.title ?? '',
    },
    sides: sides.map(({ revision: _, ...side }) => side),
    usual: newest && old ? { old: old.versionId, new: newest.versionId } : null,
  };
};

/** One version as a side: its text as far as it is there, and its title and metadata in words. */
export const comparedSide = async (
  app: App,
  viewer: Viewer,
  versionId: string,
  fileId: string | undefined,
): Promise<AnswerOf<typeof api.comparison.side>> => {
  const originals = (await listFiles(app.db, [versionId])).filter((file) => file.role === 'original');
  const file = fileId ? originals.find((one) => one.id === fileId) : originals[0];
  if (!file) throw refused('not_found');
  const { opened, revision, isAssigned } = await openFile(app, viewer, file.id);
  const isLast = revision.latest_version_id === versionId;
  if (!mayRead(opened, revision, versionId) && !(isAssigned && isLast)) throw refused('not_found');
  const version = (await listVersions(app.db, revision.id)).find((one) => one.id === versionId);
  if (!version) throw refused('not_found');
  await recordUsage(app, {
    personId: lookerOf(viewer),
    documentId: opened.document.id,
    revisionId: revision.id,
    version: version.n,
    fileId: file.id,
    action: 'opened',
  });
  const { fields } = opened.type;
  const names = await namesInMetadata(app.db, fields, version.metadata);
  const isThere = file.text_state === 'done';
  const blocks = isThere ? await blocksOf(app, file) : null;
  return {
    ...toSide(revision, version),
    document: { id: opened.document.id, number: opened.document.number },
    files: originals.map((one) => ({
      id: one.id,
      name: one.name,
      mediaType: one.media_type,
      show: showOf(one.media_type),
    })),
    fileId: file.id,
    textState: file.text_state,
    text: blocks ? textOfBlocks(blocks) : isThere ? ((await findText(app, file.sha256)) ?? '') : '',
    blocks,
    metadata: [
      { label: 'Title', value: version.title },
      ...Object.entries(titlesOf(version.metadata)).map(([language, title]) => ({
        label: `Title (${language})`,
        value: title,
      })),
      ...fields
        .filter((field) => field.level === 'revision')
        .map((field) => ({
          label: field.label,
          value: names[field.key] ?? showFieldValue(field, version.metadata[field.key]),
        })),
    ],
  };
};

/** Kinds that are laid out as blocks; a PDF has its pages, another kind its text alone. */
const LAID_OUT = new Set(['html', 'markdown', 'sheets']);

/** Blocks of a file; null where it has none or cannot be read any more: then its stored text is compared. */
const blocksOf = async (app: App, file: { sha256: string; media_type: string }): Promise<TextBlock[] | null> => {
  if (!LAID_OUT.has(showOf(file.media_type))) return null;
  try {
    return (await parse('blocks', await app.content.intactPath(file.sha256), file.media_type, true)) ?? null;
  } catch (error) {
    app.log.warn(
      { sha256: file.sha256, reason: (error as Error).message.slice(0, 200) },
      'a text could not be laid out',
    );
    return null;
  }
};

/** The main files of two versions in one zip, as they are filed, told apart by a prefix of their names. */
export const comparedPair = async (
  app: App,
  viewer: Viewer,
  versions: { old: string; new: string },
): Promise<{ bytes: Uint8Array; name: string }> => {
  const entries: Record<string, Uint8Array> = {};
  let number = '';
  for (const side of ['old', 'new'] as const) {
    const file = (await listFiles(app.db, [versions[side]])).find((one) => one.role === 'original');
    if (!file) throw refused('not_found');
    const { opened, revision } = await openFile(app, viewer, file.id);
    if (!mayRead(opened, revision, versions[side])) throw refused('not_found');
    const out = await handOut(app, viewer, file.id, 'exact');
    number = opened.document.number;
    entries[`${side}_v${out.file.n}_${out.name}`] = await readFile(await app.content.intactPath(file.sha256));
  }
  // Stored without compression: filed files are mostly compressed already.
  return { bytes: zipSync(entries, { level: 0 }), name: `${number}-pair.zip` };
};

/** Beyond so many characters on both sides a version is compared when somebody looks, beside the page, and not here. */
const LONGEST = 400_000;
const AT_ONCE = 25;
const WORK_MS = 5_000;

/** Summarises the changes of versions in one line, as soon as the texts are there; a few seconds at a time. */
export const compareWaiting = async (app: App): Promise<number> => {
  const until = performance.now() + WORK_MS;
  let done = 0;
  while (performance.now() < until) {
    const pairs = await store.listWaiting(app.db, { limit: AT_ONCE, longest: LONGEST, now: app.clock() });
    const compared = await eachOnItsOwn(
      app,
      'comparison of a version',
      pairs,
      ({ version_id, title }) => ({ subject: version_id, label: title }),
      async (pair) => {
        const change = changeOf(pair);
        await store.keepChange(app.db, {
          versionId: pair.version_id,
          state: change ? 'done' : 'none',
          change: change && JSON.stringify(change),
        });
        // Between two comparisons whoever waits for an answer gets it.
        await new Promise((resolve) => setImmediate(resolve));
      },
    );
    done += compared;
    if (pairs.length < AT_ONCE || compared < pairs.length) break;
  }
  return done;
};

/** Null where it is unknown: no version before it, no text on one side, or too long. */
const changeOf = (pair: store.WaitingPair): VersionChange | null => {
  if (pair.title_before === null || pair.metadata_before === null) return null;
  const before = { title: pair.title_before, metadata: pair.metadata_before };
  const metadata = fieldChanges(pair.fields, before, { title: pair.title, metadata: pair.metadata }).length;
  if (pair.sha256 !== null && pair.sha256 === pair.sha_before)
    return { inserted: 0, deleted: 0, moved: 0, places: 0, metadata };
  if (pair.text === null || pair.text_before === null || pair.length > LONGEST) return null;
  return { ...compareTexts(pair.text_before, pair.text).counts, metadata };
};
