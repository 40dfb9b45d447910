import { createHash } from 'node:crypto';
import type { AnswerOf, api, BodyOf, FormRecord, RecordLine } from '@kanonos/contract';
import {
  answersInWords,
  canonicalJson,
  checkAnswers,
  countedAnswers,
  dayOf,
  type FormPurpose,
  type FormSection,
  type Metadata,
  missingAnswers,
  recordNumber,
  sectionsOf,
} from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { actorOf, type Handler, type Viewer } from '../access/index.ts';
import { answersRequest, ensureMaySuggest, suggestIn } from '../changes/index.ts';
import { getStored } from '../content/index.ts';
import { lockDocument, type Opened, openDocument, openIfVisible, subjectOf } from '../documents/index.ts';
import { notify } from '../mailing/index.ts';
import { membersOf, namesOf } from '../people/index.ts';
import { toForm } from './editing.ts';
import * as store from './store.ts';

const today = async (app: App) => dayOf(app.clock(), (await app.organisation()).zone);

/** A form with all its sections, as it is filled in. */
const filledIn = <T extends { purpose: FormPurpose; sections: FormSection[] }>(row: T): T => ({
  ...row,
  sections: sectionsOf(row.purpose, row),
});

/** The document of a record, as far as it exists for the viewer. */
const documentOf = async (db: Db, viewer: Viewer, id: string | null, day: string): Promise<Opened | undefined> =>
  id === null ? undefined : openIfVisible(db, viewer, id, day);

const peopleIn = (sections: readonly FormSection[], answers: Metadata): string[] =>
  sections
    .flatMap(({ questions }) => questions)
    .filter(({ kind }) => kind === 'person' || kind === 'people')
    .flatMap(({ key }) => [answers[key] ?? []].flat().map(String))
    .filter((id) => /^[0-9a-f-]{36}$/.test(id));

const common = (row: store.RecordRow, opened: Opened | undefined) => ({
  id: row.id,
  number: row.number,
  document: opened
    ? { id: opened.document.id, number: opened.document.number, title: opened.revisions[0]?.title ?? '' }
    : null,
  by: { id: row.by_id, name: row.by_name },
  savedAt: row.saved_at.toISOString(),
  sentAt: row.sent_at?.toISOString() ?? null,
  rowVersion: row.row_version,
});

const toLine = async (app: App, viewer: Viewer, row: store.RecordRow, day: string): Promise<RecordLine> => {
  const [first] = answersInWords(sectionsOf(row.purpose, row), row.answers, () => '').flatMap(({ lines }) => lines);
  return {
    ...common(row, await documentOf(app.db, viewer, row.document_id, day)),
    form: { id: row.form_id, code: row.code, name: row.name },
    first: first ? `${first.label}: ${first.value}`.slice(0, 200) : '',
  };
};

/** The forms for records, with a person's drafts and the records that they sent or get. */
export const formsOffered = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.forms.offered>> => {
  const day = await today(app);
  const lines = async (found: store.RecordRow[]) => {
    const all: RecordLine[] = [];
    for (const row of found) all.push(await toLine(app, viewer, row, day));
    return all;
  };
  return {
    forms: (await store.listForms(app.db)).filter((row) => row.active && row.purpose === 'record').map(toForm),
    drafts: await lines(await store.listDrafts(app.db, viewer.id)),
    records: await lines(await store.listSent(app.db, { personId: viewer.id, unitIds: [...viewer.unitIds] })),
  };
};

/** The form by which a change of a document is suggested, with the viewer's draft. */
export const formForChange = async (
  app: App,
  viewer: Viewer,
  ref: string,
): Promise<AnswerOf<typeof api.forms.forChange>> => {
  const { document } = await openDocument(app.db, viewer, ref, await today(app));
  const form = await store.findChangeForm(app.db, document.type_id);
  if (!form) return { form: null, draft: null };
  const of = { personId: viewer.id, formId: form.id, documentId: document.id };
  return { form: toForm(filledIn(form)), draft: (await store.findDraftOf(app.db, of))?.id ?? null };
};

/** A record for whoever made it, gets it, or answers the request that it is; to all others it does not exist. */
const openRecord = async (app: App, viewer: Viewer, id: string): Promise<store.RecordRow> => {
  const row = await store.findRecord(app.db, id);
  if (!row) throw refused('not_found');
  const isReceiver = row.receiver_ids.some((unit) => viewer.unitIds.has(unit));
  const gets =
    row.sent_at !== null && (isReceiver || (row.request_id && (await answersRequest(app, viewer, row.request_id))));
  if (row.by_id !== viewer.id && !gets) throw refused('not_found');
  return row;
};

export const formRecord = async (app: App, viewer: Viewer, id: string): Promise<FormRecord> => {
  const row = filledIn(await openRecord(app, viewer, id));
  const names = await namesOf(app.db, peopleIn(row.sections, row.answers));
  const nameOf = (person: string) => names.get(person)?.name ?? person;
  return {
    ...common(row, await documentOf(app.db, viewer, row.document_id, await today(app))),
    form: { ...toForm(row), id: row.form_id },
    answers: row.answers,
    names: Object.fromEntries(
      row.sections
        .flatMap(({ questions }) => questions)
        .filter(({ kind }) => kind === 'person' || kind === 'people')
        .map(({ key }) => [key, [row.answers[key] ?? []].flat().map(String).map(nameOf).join(', ')]),
    ),
    inWords: answersInWords(row.sections, row.answers, nameOf),
    files: (await store.listFiles(app.db, row.id)).map(({ id: fileId, name, size }) => ({ id: fileId, name, size })),
    request: row.request,
    mine: row.by_id === viewer.id,
  };
};

/** A draft of one's own, under its lock. */
const openDraft = async (work: UnitOfWork, viewer: Viewer, id: string, rowVersion: number | undefined) => {
  await store.lockRecord(work.trx, id);
  const row = await store.findRecord(work.trx, id);
  if (row?.by_id !== viewer.id) throw refused('not_found');
  if (row.number) throw refused('record_sent', { number: row.number });
  if (row.row_version !== rowVersion) throw refused('changed_meanwhile');
  return row;
};

/** The form of a new draft, with the document that it is about. */
const begin = async (work: UnitOfWork, viewer: Viewer, { formId, document }: BodyOf<typeof api.forms.save>) => {
  const form = await store.findForm(work.trx, formId);
  if (!form) throw refused('not_found');
  if (!form.active) throw refused('form_not_offered', { form: form.name });
  if (form.purpose === 'record') return { form, documentId: null };
  if (document === undefined) throw refused('form_needs_document');
  const opened = await openDocument(work.trx, viewer, document, work.day);
  ensureMaySuggest(opened);
  if ((await store.findChangeForm(work.trx, opened.document.type_id))?.id !== form.id)
    throw refused('form_not_offered', { form: form.name });
  return { form, documentId: opened.document.id };
};

/** Keeps a draft: it may have gaps; what is there is checked, so that nothing wrong is found only at the end. */
export const saveRecord: Handler<typeof api.forms.save> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => {
    const before = input.id ? await openDraft(work, viewer, input.id, input.rowVersion) : undefined;
    const { form, documentId } = before
      ? { form: (await store.findForm(work.trx, before.form_id)) ?? before, documentId: before.document_id }
      : await begin(work, viewer, input);
    const sections = sectionsOf(form.purpose, form);
    assertAllowed(checkAnswers(sections, input.answers));
    const values = { id: before?.id ?? newId(), version: form.version, answers: input.answers, now: work.now };
    // A draft goes on by the newest version of its form: it is not yet a record of anything.
    await (before
      ? store.updateDraft(work.trx, values)
      : store.insertDraft(work.trx, { ...values, formId: input.formId, documentId, by: viewer.id }));
    await store.dropFiles(work.trx, { recordId: values.id, kept: input.keptFiles });
    const kept = (await store.listFiles(work.trx, values.id)).length;
    for (const [at, uploadId] of [...new Set(input.uploads)].entries()) {
      const { name, sha256 } = await getStored(app, work.trx, viewer, uploadId);
      await store.insertFile(work.trx, { id: newId(), recordId: values.id, n: kept + at, name, sha256 });
    }
    return { id: values.id, rowVersion: (before?.row_version ?? 0) + 1 };
  });

const fingerprintOf = (answers: Metadata): string => createHash('sha256').update(canonicalJson(answers)).digest('hex');

/**
 * Sends a draft as it is kept: it gets its number and changes no more. One about a document becomes a change request in the same
 * transaction; another comes to the units that its form names.
 */
export const sendRecord = (
  app: App,
  viewer: Viewer,
  id: string,
  { rowVersion }: BodyOf<typeof api.forms.send>,
): Promise<AnswerOf<typeof api.forms.send>> =>
  app.command(actorOf(viewer), async (work) => {
    const named = await store.findRecord(work.trx, id);
    // The document before the record, as every command on a document does.
    if (named?.by_id === viewer.id && named.document_id) await lockDocument(work.trx, named.document_id);
    const row = filledIn(await openDraft(work, viewer, id, rowVersion));
    const form = await store.findForm(work.trx, row.form_id);
    if (!form?.active) throw refused('form_not_offered', { form: row.name });
    assertAllowed([...checkAnswers(row.sections, row.answers), ...missingAnswers(row.sections, row.answers)]);
    const answers = countedAnswers(row.sections, row.answers);
    const files = await store.listFiles(work.trx, row.id);
    const opened = row.document_id ? await openDocument(work.trx, viewer, row.document_id, work.day) : undefined;
    const request = opened
      ? await suggestIn(app, work, viewer, opened, { ...changeOf(answers), file: files[0] })
      : undefined;
    const year = Number(work.day.slice(0, 4));
    const n = await store.nextOfYear(work.trx, row.form_id, year);
    const number = recordNumber(row.code, year, n);
    await store.markSent(work.trx, { id, answers, year, n, number, now: work.now, requestId: request?.id ?? null });
    work.record({
      kind: 'form-record.sent',
      subject: opened ? subjectOf(opened.document) : {},
      payload: {
        number,
        form: row.name,
        version: row.version,
        answers: fingerprintOf(answers),
        files: files.map(({ name, sha256 }) => ({ name, sha256 })),
        ...(request ? { request: request.number } : {}),
      },
    });
    if (!request) await tellReceivers(app, work, viewer, row, number);
    return { number, request: request?.number ?? null };
  });

const textIn = (answers: Metadata, key: string): string => (typeof answers[key] === 'string' ? answers[key] : '');
const changeOf = (answers: Metadata) => ({
  place: textIn(answers, 'place').slice(0, 200),
  what: textIn(answers, 'what'),
  proposal: textIn(answers, 'proposal'),
});

const tellReceivers = async (app: App, work: UnitOfWork, viewer: Viewer, row: store.RecordRow, number: string) => {
  const members = await membersOf(work.trx, row.receiver_ids, work.day);
  const people = [...new Set(Object.values(members).flat())].filter((id) => id !== viewer.id);
  if (people.length === 0) return;
  const [first] = answersInWords(row.sections, row.answers, () => '').flatMap(({ lines }) => lines);
  await notify(app, work, people, {
    kind: 'task',
    subject: `${row.name}: ${number}`,
    lead: `${viewer.name} has sent ${row.name}.`,
    quote: first ? `${first.label}: ${first.value}` : '',
    link: { path: `/records/${row.id}`, label: 'Open the record' },
  });
};

/** Discards a draft with its files. */
export const discardRecord = (
  app: App,
  viewer: Viewer,
  id: string,
  { rowVersion }: BodyOf<typeof api.forms.discard>,
): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    await openDraft(work, viewer, id, rowVersion);
    await store.deleteDraft(work.trx, id);
  });

/** A file of a record, for whoever may read the record. */
export const recordFile = async (app: App, viewer: Viewer, id: string) => {
  const file = await store.findFile(app.db, id);
  if (!file) throw refused('not_found');
  await openRecord(app, viewer, file.record_id);
  if (!(await app.content.has(file.sha256))) throw refused('content_missing', { name: file.name });
  const { name, sha256, size, media_type: mediaType } = file;
  return { name, sha256, size, mediaType, as: 'download' as const };
};
