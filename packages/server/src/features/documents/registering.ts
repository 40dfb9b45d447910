import { createHash } from 'node:crypto';
import type { Readable } from 'node:stream';
import { type AnswerOf, type api, type BodyOf, sentenceOf } from '@kanonos/contract';
import {
  dayOf,
  type Facts,
  factsInFolder,
  firstLabel,
  hasRight,
  isFolderShut,
  isLabel,
  makeFileName,
  missingFacts,
  type NumberFacts,
  ok,
  type Refusal,
  type Result,
  refusal,
  splitFacts,
} from '@kanonos/core';
import type { App, Work } from '../../platform/app.ts';
import { mediaTypeOf } from '../../platform/content/kind.ts';
import { newId } from '../../platform/db/ids.ts';
import { Refused, refused } from '../../platform/refused.ts';
import { rightsOnFolders, type Viewer } from '../access/service.ts';
import { folderByRule, pathByRule, toPlan } from '../filing/service.ts';
import { departmentIdOf, namesOf, unitsByIds } from '../people/service.ts';
import { ensureRequirement } from '../reading/duties.ts';
import { ensureFacts, factRefusals } from '../rules/facts.ts';
import { holdRules } from '../rules/guard.ts';
import {
  type FolderRow,
  getFolder,
  getType,
  listFolders,
  listTypes,
  previewNumber,
  reservedFor,
  type TypeRow,
  takeNumber,
} from '../rules/service.ts';
import { settlePlansOfToday } from '../rules/types.ts';
import { actorOf } from '../session/service.ts';
import { factsInNames } from './files.ts';
import { getUpload, subjectOf } from './service.ts';
import * as store from './store.ts';

export const typesFor = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.documents.types>> => {
  const rights = await rightsOnFolders(app.db, viewer);
  const mayRegister = [...rights.values()].some((given) => given.has('author'));
  const types = await listTypes(app.db);
  const reserved = await reservedFor(app.db, viewer.id);
  return {
    lately: await store.listLately(app.db, viewer.id),
    types: types
      .filter((type) => !type.retired)
      .map((type) => ({
        id: type.id,
        code: type.code,
        name: type.name,
        family: type.family,
        group: type.group_name,
        help: type.help,
        example: type.example,
        fields: type.fields,
        numbering: type.numbering_rule,
        outsidePattern: type.outside_pattern,
        labelGivenByMaker: type.scheme.kind === 'own',
        readersNeeded: type.readers_needed,
        reviewMonths: type.review_months,
        mayRegister: mayRegister && mayRegisterType(viewer, type),
        filing: type.filing_rule,
        reserved: reserved.get(type.id) ?? [],
        route: {
          name: type.route.name,
          steps: type.route.steps.map((step) => ({
            name: step.name,
            kind: step.kind,
            workingDays: step.workingDays,
            chosenMinimum: step.asked.flatMap((a) => (a.by === 'chosen' ? [a.minimum] : []))[0] ?? null,
          })),
        },
      })),
  };
};

export const foldersFor = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.documents.folders>> => {
  const rights = await rightsOnFolders(app.db, viewer);
  const folders = await listFolders(app.db);
  const plan = toPlan(folders);
  // A folder is shown when it or something below it may be seen, so that the way to it is there.
  const shown = new Set(folders.filter((folder) => rights.get(folder.id)?.has('see')).flatMap((folder) => folder.path));
  return {
    folders: folders
      .filter((folder) => shown.has(folder.id))
      .map((folder) => ({
        id: folder.id,
        parentId: folder.parent_id,
        name: folder.name,
        area: folder.area_name,
        mayAuthor: (rights.get(folder.id)?.has('author') ?? false) && !isFolderShut(folder.state),
        mayWork: rights.get(folder.id)?.has('read work') ?? false,
        state: folder.state,
        facts: factsInFolder(folder.id, plan),
      })),
  };
};

/** Whether a type is for this person to register: for everyone with *author*, unless it names units. */
const mayRegisterType = (viewer: Viewer, type: TypeRow): boolean =>
  type.register_unit_ids.length === 0 || type.register_unit_ids.some((id) => viewer.unitIds.has(id));

/** Takes a file: stored and hashed on the way, judged by its bytes, remembered for its sender until it is used. */
export const takeUpload = async (
  app: App,
  viewer: Viewer,
  name: string,
  stream: Readable,
): Promise<AnswerOf<typeof api.documents.upload>> => {
  const { sha256, size, head } = await app.content.put(stream, (await app.house()).uploadLimit);
  if (size === 0) throw refused('file_empty');
  const { mediaType, warning } = await mediaTypeOf(name, head);
  const id = newId();
  await app.act(actorOf(viewer), async (work) => {
    const textState = mediaType === 'application/octet-stream' ? 'broken' : 'waiting';
    const isNew = await store.insertContent(work.trx, { sha256, size, mediaType, now: work.now, textState });
    if (isNew && textState === 'waiting') await app.jobs.enqueue(work.trx, 'text.extract', { sha256 });
    await store.insertUpload(work.trx, { id, sha256, name, by: viewer.id, now: work.now });
  });
  return { id, name, size, mediaType, sha256, warning };
};

/** What a number is made from: codes of type, area and department, the day, and facts. */
export const numberFacts = async (
  db: App['db'] | Work['trx'],
  type: TypeRow,
  folder: FolderRow,
  facts: Facts,
  day: string,
  departmentId: string | undefined,
): Promise<NumberFacts> => {
  const [department] = departmentId ? await unitsByIds(db, [departmentId]) : [];
  const fields = Object.fromEntries(
    Object.entries(facts).map(([key, value]) => [key, value === null ? undefined : String(value)]),
  );
  return {
    type: type.code,
    ...(folder.area_code ? { area: folder.area_code } : {}),
    ...(department ? { department: department.code } : {}),
    day,
    fields,
  };
};

const labelFor = (type: TypeRow, given: string | null): { label: string | null; refusals: Refusal[] } => {
  if (type.scheme.kind === 'own') {
    if (!given?.trim()) return { label: null, refusals: [refusal('label_given_by_maker')] };
    return isLabel(type.scheme, given.trim())
      ? { label: given.trim(), refusals: [] }
      : { label: null, refusals: [refusal('label_not_of_scheme', { label: given })] };
  }
  const first = firstLabel(type.scheme);
  return first.ok ? { label: first.value, refusals: [] } : { label: null, refusals: first.refusals };
};

/** Where a document would be filed: the chosen folder, or the path that the type's rule gives. */
const previewPlace = async (
  app: App,
  type: TypeRow,
  { folderId, facts }: Pick<BodyOf<typeof api.documents.preview>, 'folderId' | 'facts'>,
  day: string,
): Promise<Result<{ folder: FolderRow; path: { names: string[]; made: number } }>> => {
  if (!type.filing_rule) {
    if (!folderId) throw refused('not_found');
    const folder = await getFolder(app.db, folderId);
    return ok({ folder, path: { names: folder.path_names, made: 0 } });
  }
  const rows = await listFolders(app.db);
  try {
    const { path, made, folderId: found } = pathByRule(rows, type, facts, day);
    return ok({ folder: rows.find((row) => row.id === found) as FolderRow, path: { names: path, made } });
  } catch (error) {
    if (error instanceof Refused) return { ok: false, refusals: [...error.refusals] };
    throw error;
  }
};

/** What registering would give: number, label and file name by the same rules, without taking anything. */
export const previewRegistration = async (
  app: App,
  viewer: Viewer,
  input: BodyOf<typeof api.documents.preview>,
): Promise<AnswerOf<typeof api.documents.preview>> => {
  const type = await getType(app.db, input.typeId);
  const day = dayOf(app.clock(), (await app.house()).zone);
  const refusals: Refusal[] = [];
  const place = await previewPlace(app, type, input, day);
  if (!place.ok)
    return {
      number: null,
      label: null,
      fileName: null,
      folder: null,
      missing: missingFacts(type.fields, input.facts),
      refusals: place.refusals.map((r) => ({ ...r, detail: sentenceOf(r.code, r.params) })),
    };
  const { folder } = place.value;
  const rights = (await rightsOnFolders(app.db, viewer)).get(folder.id);
  if (!rights || !hasRight(rights, 'see')) throw refused('not_found');
  if (!hasRight(rights, 'author')) refusals.push(refusal('right_missing', { right: 'author' }));
  const facts = await numberFacts(app.db, type, folder, input.facts, day, await departmentIdOf(app.db, viewer.id, day));
  const number = await previewNumber(app.db, { type, facts, named: input.number, personId: viewer.id });
  if (!number.ok) refusals.push(...number.refusals);
  const label = labelFor(type, input.label);
  if (!mayRegisterType(viewer, type)) refusals.push(refusal('type_not_yours'));
  refusals.push(...label.refusals, ...(await factRefusals(app.db, type, input.facts)));
  return {
    folder: place.value.path,
    number: number.ok ? number.value : null,
    label: label.label,
    fileName:
      number.ok && label.label !== null
        ? makeFileName(
            {
              number: number.value,
              revision: label.label,
              title: input.title,
              extension: input.extension,
              version: '1',
              date: day,
              fields: factsInNames(input.facts),
            },
            type.naming_rule,
          )
        : null,
    missing: missingFacts(type.fields, input.facts),
    refusals: refusals.map((r) => ({ ...r, detail: sentenceOf(r.code, r.params) })),
  };
};

/**
 * Registers a document: number, first revision in draft, version 1, in one transaction. With a key the same request twice
 * gives the same document once.
 */
export const registerDocument = async (
  app: App,
  viewer: Viewer,
  input: BodyOf<typeof api.documents.register>,
  key: string | null,
): Promise<AnswerOf<typeof api.documents.register>> => {
  await settlePlansOfToday(app);
  return app.act(actorOf(viewer), async (work) => {
    const fingerprint = createHash('sha256').update(JSON.stringify(input)).digest('hex');
    if (key) {
      await store.lockKey(work.trx, key, viewer.id);
      const before = await store.findIdempotent(work.trx, { key, personId: viewer.id });
      if (before && (before.endpoint !== 'registerDocument' || before.fingerprint !== fingerprint))
        throw refused('key_used_otherwise');
      if (before) return before.answer as AnswerOf<typeof api.documents.register>;
    }
    const answer = await registerIn(app, work, viewer, input);
    if (key)
      await store.insertIdempotent(work.trx, {
        key,
        personId: viewer.id,
        endpoint: 'registerDocument',
        fingerprint,
        answer,
        now: work.now,
      });
    return answer;
  });
};

/** Registers a document within an act of more. */
export const registerIn = async (
  app: App,
  work: Work,
  viewer: Viewer,
  input: BodyOf<typeof api.documents.register>,
) => {
  const { trx } = work;
  // From here on nobody changes the rules by which this number is made.
  await holdRules(trx);
  const type = await getType(trx, input.typeId);
  if (type.retired) throw refused('type_retired');
  const folderId = type.filing_rule ? await folderByRule(work, viewer, type, input.facts) : input.folderId;
  if (!folderId) throw refused('not_found');
  const folder = await getFolder(trx, folderId);
  const rights = (await rightsOnFolders(trx, viewer)).get(folder.id);
  if (!rights || !hasRight(rights, 'see')) throw refused('not_found');
  if (!hasRight(rights, 'author')) throw refused('right_missing', { right: 'author' });
  if (isFolderShut(folder.state)) throw refused('folder_shut', { folder: folder.name, state: folder.state });
  if (!mayRegisterType(viewer, type)) throw refused('type_not_yours');
  await ensureFacts(trx, type, input.facts);
  const { label, refusals } = labelFor(type, input.label);
  if (label === null) throw new Refused(refusals);
  const upload = await getUpload(trx, viewer, input.uploadId);
  if (!(await app.content.has(upload.sha256))) throw refused('content_missing', { name: upload.name });
  const ownerId = input.ownerId ?? viewer.id;
  const owner = (await namesOf(trx, [ownerId])).get(ownerId);
  if (!owner || owner.state === 'deactivated') throw refused('not_found');
  const departmentId = (await departmentIdOf(trx, ownerId, work.day)) ?? null;
  const facts = await numberFacts(trx, type, folder, input.facts, work.day, departmentId ?? undefined);
  const { signed, living } = splitFacts(type.fields, input.facts);
  const [documentId, revisionId] = [newId(), newId()];
  // The counter's row stays locked until the commit: it is taken when nothing but inserts and the trail is left to do.
  const number = await takeNumber(trx, { type, facts, named: input.number, personId: viewer.id }, documentId);
  await store.insertRegistered(trx, {
    documentId,
    revisionId,
    versionId: newId(),
    fileId: newId(),
    number,
    label,
    typeId: type.id,
    folderId: folder.id,
    ownerId,
    departmentId,
    title: input.title,
    summary: input.summary,
    note: input.note,
    signed,
    living,
    keywords: input.keywords,
    by: viewer.id,
    now: work.now,
    fileName: upload.name,
    sha256: upload.sha256,
    size: upload.size,
  });
  await ensureRequirement(work, documentId, type);
  work.record({
    kind: 'document.registered',
    subject: subjectOf({ id: documentId, number }, { id: revisionId, label }),
    payload: {
      type: type.code,
      title: input.title,
      folder: folder.path_names.join(' / '),
      owner: owner.signInName,
      facts: input.facts,
      file: { name: upload.name, sha256: upload.sha256, size: upload.size },
    },
  });
  return { id: documentId, number, label };
};
