import {
  baseName,
  createFileFinder,
  createScopedRecogniser,
  createSuggester,
  dayOf,
  foldNumber,
  foldText,
  type ImportPlan,
  judgeManifest,
  type ManifestMapping,
  type ManifestMeaning,
  toLine,
} from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import type { Db, Trx } from '../../platform/db/connect.ts';
import { rightsOnFolders, viewerOf } from '../access/index.ts';
import { knownRules, listFolders, listTypes } from '../rules/index.ts';
import * as store from './store.ts';

/** Judges all lines that are not yet taken over against the organisation as it is now. */
export const judge = async (app: App, db: Db | Trx, row: store.ImportRow): Promise<ImportPlan> => {
  const { zone } = await app.organisation();
  const today = dayOf(app.clock(), zone);
  const importer = await viewerOf(db, row.by_id, today);
  const rights = await rightsOnFolders(db, importer);
  const managed = (await listFolders(db))
    .filter((folder) => rights.get(folder.id)?.has('manage'))
    .map((folder) => ({ id: folder.id, path: folder.path_names.join(' / ') }));
  const folders = new Map(managed.map(({ id, path }) => [foldText(path), id]));
  const named = await store.listPeopleNames(db);
  const people = new Map<string, string>();
  for (const person of named)
    for (const word of [person.name, person.sign_in_name]) people.set(foldText(word), person.id);
  const sent = await store.listFiles(db, row.id);
  const types = await listTypes(db);
  const lasts = new Map((await store.listLasts(db)).map((counter) => [counter.scope, counter.last]));
  const mapping: ManifestMapping = { ...row.mapping, columns: row.mapping.columns as (ManifestMeaning | null)[] };
  const lines = (await store.listOpenLines(db, row.id)).map((line) => toLine(line.line, line.cells, mapping));
  const known = new Map(
    (await store.listKnownNumbers(db, [...new Set(lines.map((line) => foldNumber(line.number)))])).map((one) => [
      one.folded,
      one.state,
    ]),
  );
  const plan = judgeManifest(lines, mapping, {
    today,
    types: types.map((type) => ({
      id: type.id,
      code: type.code,
      name: type.name,
      scheme: type.scheme,
      fields: type.fields,
      byRule: type.numbering_rule !== null,
      externalPattern: type.external_pattern,
      takeOver: type.take_over,
      retired: type.retired,
    })),
    folderId: (path) => folders.get(foldText(path.replace(/\s*[\\/>]\s*/g, ' / '))),
    personId: (name) => people.get(foldText(name)),
    recognise: createScopedRecogniser(await knownRules(db)),
    lastOf: (scope) => lasts.get(scope),
    known: (folded) => known.get(folded),
    file: createFileFinder(sent),
  });
  return withSuggestions(plan, {
    import_type_unknown: ['type', types.flatMap((type) => [type.code, type.name])],
    import_folder_unknown: ['folder', managed.map(({ path }) => path)],
    import_person_unknown: ['name', named.map((person) => person.name)],
    import_file_missing: ['name', sent.map((file) => baseName(file.path))],
  });
};

/** The plan with the most likely intended word beside every unknown word. */
const withSuggestions = (plan: ImportPlan, words: Record<string, [param: string, known: string[]]>): ImportPlan => {
  const near = new Map(
    Object.entries(words).map(([code, [param, known]]) => [code, { param, suggest: createSuggester(known) }]),
  );
  return {
    ...plan,
    verdicts: plan.verdicts.map((verdict) => ({
      ...verdict,
      refusals: verdict.refusals.map((one) => {
        const help = near.get(one.code);
        const found = help?.suggest(String(one.params?.[help.param] ?? ''));
        return found ? { ...one, params: { ...one.params, near: found } } : one;
      }),
    })),
  };
};

/** Keeps the verdicts with their lines. */
export const saveVerdicts = async (trx: Trx, id: string, { verdicts }: ImportPlan): Promise<void> => {
  for (let at = 0; at < verdicts.length; at += 2000)
    await store.saveVerdicts(
      trx,
      id,
      verdicts.slice(at, at + 2000).map(({ line, refusals, warnings }) => ({
        line,
        state: refusals.length ? 'refused' : 'ready',
        reasons: refusals,
        warnings,
      })),
    );
};
