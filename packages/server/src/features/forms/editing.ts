import type { AnswerOf, api, FormInfo } from '@kanonos/contract';
import { type FormSection, judgeForm } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { newId } from '../../platform/db/ids.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import { actorOf, type Handler } from '../access/index.ts';
import { getType } from '../rules/index.ts';
import * as store from './store.ts';

export const toForm = (
  row: Pick<store.FormRow, 'id' | 'code' | 'purpose' | 'name' | 'about' | 'version' | 'sections'>,
): FormInfo => ({
  id: row.id,
  code: row.code,
  purpose: row.purpose,
  name: row.name,
  about: row.about,
  version: row.version,
  sections: row.sections,
});

/** Every form with its versions, the newest first. */
export const allForms = async (app: App): Promise<AnswerOf<typeof api.forms.all>> => {
  const versions = groupBy(await store.listVersions(app.db), (row) => row.form_id);
  const counts = new Map((await store.countRecords(app.db)).map((row) => [row.form_id, row.records]));
  return {
    forms: (await store.listForms(app.db)).map((row) => ({
      ...toForm(row),
      rowVersion: row.row_version,
      active: row.active,
      typeIds: row.type_ids,
      receiverIds: row.receiver_ids,
      records: counts.get(row.id) ?? 0,
      versions: (versions.get(row.id) ?? []).map(({ n, at, by, reason, sections }) => ({
        n,
        at: at.toISOString(),
        by,
        reason,
        sections,
      })),
    })),
  };
};

/** Makes a form, or a new version of one; what was filled in by an earlier version keeps it. */
export const saveForm: Handler<typeof api.forms.edit> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => {
    const sections = input.sections as FormSection[];
    assertAllowed(judgeForm(input.purpose, sections));
    if (input.id) await store.lockForm(work.trx, input.id);
    const before = input.id ? await store.findForm(work.trx, input.id) : undefined;
    if (input.id && !before) throw refused('not_found');
    if (before && before.row_version !== input.rowVersion) throw refused('changed_meanwhile');
    for (const typeId of input.typeIds) await getType(work.trx, typeId);
    const same = (await store.listForms(work.trx)).find(({ code }) => code === input.code);
    if (same && same.id !== before?.id) throw refused('form_code_taken', { code: input.code });
    const { code, active, typeIds, receiverIds, name, about, reason } = input;
    const id = before?.id ?? newId();
    // What records a form is for stays: its records are read by it.
    const values = { id, code, purpose: before?.purpose ?? input.purpose, active, typeIds, receiverIds };
    await (before ? store.updateForm(work.trx, values) : store.insertForm(work.trx, values));
    const version = (before?.version ?? 0) + 1;
    await store.insertVersion(work.trx, {
      formId: id,
      n: version,
      name,
      about,
      sections,
      by: viewer.id,
      now: work.now,
      reason,
    });
    work.record({
      kind: 'form.saved',
      subject: {},
      payload: { code, name, purpose: values.purpose, version, active, reason },
    });
    return { id, version };
  });
