import { readFile } from 'node:fs/promises';
import { dayOf, fillTokens, isReleased } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { fillFacts, type OfficeKind, officeKind, type Placed } from '../../platform/office/facts.ts';
import { markPdf } from '../../platform/office/markPdf.ts';
import { isSealed, readParts } from '../../platform/office/package.ts';
import { Refused } from '../../platform/refused.ts';
import { getFolder, policyOf } from '../rules/service.ts';
import { placedValues } from './placed.ts';
import { allFacts, type Opened } from './service.ts';
import type { FileRow, RevisionRow } from './store.ts';
import { findContent } from './storeContents.ts';

const PDF = 'application/pdf';
const MOST_BYTES = 50 * 1024 * 1024;

/** What the places of a file say of a revision. */
export const valuesOf = async (
  app: App,
  db: Db | Trx,
  { document, type }: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
  version: number,
  language: string,
): Promise<Placed> => {
  const { zone, name } = await app.house();
  const common = {
    number: document.number,
    title: revision.title,
    revision: revision.label,
    version: String(version),
    date: dayOf(revision.created_at, zone),
    registered: dayOf(document.registered_at, zone),
    effective: revision.effective_from ? dayOf(revision.effective_from, zone) : (revision.planned_on ?? ''),
    review: document.review_on ?? '',
    type: type.name,
    owner: document.owner_name,
    folder: (await getFolder(db, document.folder_id)).path_names.join(' / '),
    confidentiality: document.confidentiality,
    house: name,
  };
  return placedValues(db, type.fields, allFacts(document, revision), common, language);
};

const readable = (file: { media_type: string; size: number }): OfficeKind | undefined =>
  file.size <= MOST_BYTES ? officeKind(file.media_type) : undefined;

/**
 * The copy of a native file that leaves: facts stand in it as document properties, content controls and fields, all other parts
 * are byte for byte those that were checked in. Nothing where the file leaves as it is: another kind, too large, unreadable, or
 * signed by a program of its own, which any change would break. A PDF of a released revision bears its mark.
 */
export const filledCopy = async (
  app: App,
  opened: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
  file: Pick<FileRow, 'sha256' | 'media_type' | 'size' | 'language'>,
  version: number,
): Promise<Uint8Array | undefined> => {
  if (file.media_type === PDF && isReleased(revision.state) && file.size <= MOST_BYTES)
    return markedCopy(app, opened, revision, file, version);
  const kind = readable(file);
  if (!kind) return undefined;
  const bytes = await readFile(app.content.pathOf(file.sha256));
  try {
    if (kind !== 'md' && isSealed(bytes)) return undefined;
    return fillFacts(bytes, kind, await valuesOf(app, app.db, opened, revision, version, file.language));
  } catch (error) {
    if (error instanceof Refused) return undefined;
    throw error;
  }
};

const STATES: Partial<Record<RevisionRow['state'], string>> = {
  'in force': 'in force since',
  superseded: 'superseded on',
  withdrawn: 'withdrawn on',
};

/**
 * The copy of a released PDF: what it is stands above and below each page, by the lines of its type, else number, label and since
 * when it holds; what no longer applies says so across the page.
 */
const markedCopy = async (
  app: App,
  opened: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
  file: Pick<FileRow, 'sha256' | 'language'>,
  version: number,
): Promise<Uint8Array | undefined> => {
  const { zone } = await app.house();
  const { head, foot } = policyOf(opened.type);
  const values = await valuesOf(app, app.db, opened, revision, version, file.language);
  const applies = revision.state === 'in force';
  const at = applies ? revision.effective_from : (revision.effective_to ?? revision.effective_from);
  const usual = [
    values.number,
    values.revision && `rev. ${values.revision}`,
    `${STATES[revision.state] ?? revision.state}${at ? ` ${dayOf(at, zone)}` : ''}`,
  ];
  return markPdf(await readFile(app.content.pathOf(file.sha256)), {
    head: fillTokens(head, values),
    foot: [foot && fillTokens(foot, values), usual.filter(Boolean).join(' · ')].filter(Boolean).join(' · '),
    across: applies ? '' : revision.state.toUpperCase(),
  });
};

/** Parts in which programs write who saved when: they differ without a word having changed. */
const OF_PROGRAM = /^docProps\/(app|core)\.xml$|^meta\.xml$|^settings\.xml$|^Thumbnails\//;

const sameParts = (a: Uint8Array, b: Uint8Array): boolean => {
  const [x, y] = [a, b].map((bytes) => [...readParts(bytes)].filter(([name]) => !OF_PROGRAM.test(name)));
  return (
    x?.length === y?.length &&
    (x ?? []).every(([name, part]) => {
      const other = y?.find(([one]) => one === name)?.[1];
      return other !== undefined && Buffer.compare(part, other) === 0;
    })
  );
};

/** Whether a file that came back says what the filed one says, whatever facts stand in either of them. */
export const differsInFactsOnly = async (
  app: App,
  db: Db | Trx,
  opened: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
  filed: FileRow,
  sentSha256: string,
): Promise<boolean> => {
  const kind = readable(filed);
  const sent = kind && filed.sha256 !== sentSha256 ? await findContent(db, sentSha256) : undefined;
  if (!kind || !sent || kind !== readable(sent)) return false;
  const [before, after] = [
    await readFile(app.content.pathOf(filed.sha256)),
    await readFile(app.content.pathOf(sent.sha256)),
  ];
  const values = await valuesOf(app, db, opened, revision, revision.version_count, filed.language);
  try {
    const filled = fillFacts(before, kind, values);
    return kind === 'md' ? Buffer.compare(filled, after) === 0 : sameParts(filled, fillFacts(after, kind, values));
  } catch (error) {
    if (error instanceof Refused) return false;
    throw error;
  }
};
