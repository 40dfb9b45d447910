import { Readable } from 'node:stream';
import { type AnswerOf, type api, type BodyOf, sentenceOf } from '@kanonos/contract';
import { checkTitles } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { newId } from '../../platform/db/ids.ts';
import { officeKind } from '../../platform/office/metadata.ts';
import { parse } from '../../platform/parsing/index.ts';
import { assertAllowed, RefusalError, refused } from '../../platform/refused.ts';
import type { Handler, Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { getStored, keepContent } from '../content/index.ts';
import { COMMON_PLACES, findDocument, refreshLists, runCommand, subjectOf, workOf } from '../documents/index.ts';
import { typesFor } from '../filing/index.ts';
import { addVersion, listFiles, sameFile } from '../revisions/index.ts';
import { getType } from '../rules/index.ts';
import * as store from './store.ts';

/** Templates that a document can be begun from. */
export const templateChoices = async (db: Db | Trx): Promise<AnswerOf<typeof api.templates.choices>> => ({
  templates: (await store.listTemplates(db)).filter((row) => !row.retired).map(toChoice),
});
/** The same for somebody who registers: an outside party gets those of the types that it may submit. */
export const templateChoicesFor = async (app: App, viewer: Viewer): Promise<AnswerOf<typeof api.templates.choices>> => {
  const all = await templateChoices(app.db);
  if (!viewer.outside) return all;
  const types = new Set((await typesFor(app, viewer)).types.map((type) => type.id));
  return { templates: all.templates.filter((template) => types.has(template.typeId)) };
};

const toChoice = (row: store.TemplateRow) => ({
  id: row.id,
  typeId: row.type_id,
  name: row.name,
  language: row.language,
  fileName: row.file_name,
  kind: officeKind(row.media_type) ?? '',
});

/** All templates with their placeholders and editions; outside parties get none. */
export const listTemplates = async (
  app: App,
  viewer: Pick<Viewer, 'outside'>,
): Promise<AnswerOf<typeof api.templates.list>> => {
  if (viewer.outside) return { templates: [] };
  const editions = await store.listEditions(app.db);
  const found = await store.listTemplates(app.db);
  const templates = [];
  for (const row of found) {
    const kind = officeKind(row.media_type);
    templates.push({
      ...toChoice(row),
      sha256: row.sha256,
      retired: row.retired,
      places: kind ? await parse('placedNames', await app.content.intactPath(row.sha256), kind) : [],
      rowVersion: row.row_version,
      editions: editions
        .filter((edition) => edition.template_id === row.id)
        .map(({ n, at, by_name, reason, file_name }) => ({
          n,
          at: at.toISOString(),
          by: by_name,
          reason,
          fileName: file_name,
        })),
    });
  }
  return { templates };
};

/** The placeholders of an uploaded file as a template of a type. */
export const lookAtTemplate = async (
  app: App,
  viewer: Viewer,
  { typeId, uploadId }: BodyOf<typeof api.templates.look>,
): Promise<AnswerOf<typeof api.templates.look>> => {
  const type = await getType(app.db, typeId);
  const upload = await getStored(app, app.db, viewer, uploadId);
  const kind = officeKind(upload.media_type);
  if (!kind) throw refused('template_kind', { name: upload.name });
  const names = [...COMMON_PLACES, ...type.fields.map((field) => ({ name: field.key, label: field.label }))];
  return {
    kind,
    names,
    places: (await parse('placedNames', await app.content.intactPath(upload.sha256), kind)).map((name) => ({
      name,
      label: names.find((one) => one.name === name)?.label ?? null,
    })),
  };
};

/** Makes a template, or the next edition of one; the files of earlier editions stay. */
export const saveTemplate: Handler<typeof api.templates.save> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => {
    const { trx } = work;
    const type = await getType(trx, input.typeId);
    if (input.language) assertAllowed(checkTitles({ [input.language]: 'x' }));
    const before = input.id ? await store.findTemplate(trx, input.id) : undefined;
    if (input.id && before?.type_id !== input.typeId) throw refused('not_found');
    const twin = (await store.listTemplates(trx)).find(
      (row) =>
        row.id !== input.id &&
        row.type_id === input.typeId &&
        row.name === input.name &&
        row.language === input.language,
    );
    if (twin) throw refused('template_name_taken', { name: input.name });
    const upload = input.uploadId ? await getStored(app, trx, viewer, input.uploadId) : undefined;
    if (!upload && !before) throw refused('template_without_file');
    const kind = upload && officeKind(upload.media_type);
    if (upload && !kind) throw refused('template_kind', { name: upload.name });
    // A file that cannot be read is refused now, not when somebody begins a document from it.
    if (upload && kind) await parse('placedNames', await app.content.intactPath(upload.sha256), kind);
    const file = upload
      ? { fileName: upload.name, sha256: upload.sha256 }
      : { fileName: before?.file_name ?? '', sha256: before?.sha256 ?? '' };
    const same =
      before &&
      before.name === input.name &&
      before.language === input.language &&
      before.retired === input.retired &&
      before.sha256 === file.sha256;
    if (same) throw refused('nothing_changed');
    const id = before?.id ?? newId();
    const saved = { id, typeId: input.typeId, name: input.name, language: input.language, retired: input.retired };
    if (!before) await store.insertTemplate(trx, saved);
    else if ((await store.updateTemplate(trx, { ...saved, rowVersion: input.rowVersion })) === 0)
      throw refused('changed_meanwhile');
    const n = (before?.n ?? 0) + 1;
    await store.insertEdition(trx, {
      id: newId(),
      templateId: id,
      n,
      ...file,
      reason: input.reason,
      by: viewer.id,
      now: work.now,
    });
    work.record({
      kind: before ? 'template.changed' : 'template.added',
      subject: {},
      payload: {
        type: type.code,
        name: input.name,
        language: input.language,
        edition: n,
        file: file.fileName,
        sha256: file.sha256,
        ...(input.retired ? { retired: true } : {}),
        reason: input.reason,
      },
    });
    return { id };
  });

/** A template that a document of a type can be begun from now. */
export const getTemplate = async (work: UnitOfWork, id: string, typeId: string): Promise<store.TemplateRow> => {
  const row = await store.findTemplate(work.trx, id);
  if (!row || row.retired || row.type_id !== typeId) throw refused('template_unknown');
  return row;
};

/** The file of a template with values filled in, kept as a content of its own. */
export const filledFrom = async (
  app: App,
  work: UnitOfWork,
  template: store.TemplateRow,
  values: Record<string, string>,
): Promise<{ name: string; sha256: string; size: number }> => {
  const kind = officeKind(template.media_type);
  if (!kind) throw refused('template_kind', { name: template.file_name });
  const filled = await parse('fill', await app.content.intactPath(template.sha256), kind, values);
  return { name: template.file_name, ...(await keepBytes(app, work, filled, template.media_type)) };
};

const keepBytes = async (app: App, work: UnitOfWork, bytes: Uint8Array, mediaType: string) => {
  const { sha256, size } = await app.content.put(Readable.from([Buffer.from(bytes)]), work.organisation.uploadLimit);
  await keepContent(app, work, { sha256, size, mediaType });
  return { sha256, size };
};

/** Brings head, foot and styles of a template onto drafts, one after the other; failed ones are named and left unchanged. */
export const applyTemplate = async (
  app: App,
  viewer: Viewer,
  id: string,
  { ids, note }: BodyOf<typeof api.templates.bring>,
): Promise<AnswerOf<typeof api.templates.bring>> => {
  const template = await store.findTemplate(app.db, id);
  const kind = template && officeKind(template.media_type);
  if (!template || template.retired) throw refused('not_found');
  if (kind !== 'docx' && kind !== 'odt') throw refused('template_has_no_head', { kind: kind ?? '' });
  const from = await app.content.intactPath(template.sha256);
  const answer: AnswerOf<typeof api.templates.bring> = { done: [], refused: [] };
  for (const document of ids) {
    try {
      const done = await runCommand(app, viewer, { document, command: 'correct metadata' }, async (work, opened) => {
        const revision = workOf(opened, 'correct metadata');
        const files = revision.latest_version_id ? await listFiles(work.trx, [revision.latest_version_id]) : [];
        const main = files.find((file) => file.role === 'original');
        if (!main || officeKind(main.media_type) !== kind) throw refused('template_other_kind', { kind });
        const made = await parse('dress', await app.content.intactPath(main.sha256), from, kind);
        const dressed = await keepBytes(app, work, made, main.media_type);
        if (dressed.sha256 === main.sha256) throw refused('same_content', { n: revision.version_count });
        const version = await addVersion(work, revision, {
          files: files.map((file) => (file.id === main.id ? { ...sameFile(file), ...dressed } : sameFile(file))),
          note,
          title: revision.title,
          summary: revision.summary,
          metadata: revision.metadata,
        });
        await refreshLists(work.trx, opened.document.id, work.now);
        work.record({
          kind: 'template.applied',
          subject: subjectOf(opened.document, revision),
          payload: { template: template.name, edition: template.n, version: version.n, sha256: dressed.sha256, note },
        });
        return { id: opened.document.id, number: opened.document.number, version: version.n };
      });
      answer.done.push(done);
    } catch (error) {
      if (!(error instanceof RefusalError)) throw error;
      const row = error.refusals[0]?.code === 'not_found' ? undefined : await findDocument(app.db, document);
      answer.refused.push({
        id: document,
        number: row?.number ?? '',
        reasons: error.refusals.map((one) => sentenceOf(one.code, one.params)),
      });
    }
  }
  return answer;
};
