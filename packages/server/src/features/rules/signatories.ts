import type { AnswerOf, api, Difference, SignatoryRow, TypeRule } from '@kanonos/contract';
import { allRoutes, changedAssignees, namedSteps, signatoryColumns, withAssignees } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { refused } from '../../platform/refused.ts';
import { actorOf, type Handler } from '../access/index.ts';
import { getType, listTypes } from './service.ts';
import { namesInRules } from './store.ts';
import * as editions from './storeEditions.ts';
import { countDocuments, toTypeRule } from './storeTypes.ts';
import { changeTypeIn, differencesOf } from './types.ts';

/** Whom each step of each route asks, for the types in use. */
export const signatoryTable = async (app: App): Promise<AnswerOf<typeof api.signatories.table>> => {
  const types = (await listTypes(app.db)).filter((type) => !type.retired);
  const planned = new Map((await editions.listPlanned(app.db)).map((row) => [row.type_id, row.from_day]));
  const counts = new Map((await countDocuments(app.db)).map((row) => [row.type_id, row.documents]));
  const rules = types.map((row) => ({ row, rule: toTypeRule(row) }));
  const columns = signatoryColumns(rules.map(({ rule }) => rule));
  const rows = rules.flatMap(({ row, rule }): SignatoryRow[] =>
    allRoutes(rule).flatMap(({ place, route }) => {
      const steps = new Map(namedSteps(route).map((one) => [one.column, one]));
      if (steps.size === 0) return [];
      return [
        {
          typeId: row.id,
          code: row.code,
          name: row.name,
          rowVersion: row.row_version,
          documents: counts.get(row.id) ?? 0,
          place,
          route: route.name,
          planned: planned.get(row.id) ?? null,
          fields: rule.fields
            .filter(({ kind }) => kind === 'person' || kind === 'people')
            .map(({ key, label }) => ({ key, label })),
          cells: columns.map((column) => {
            const found = steps.get(column);
            return found
              ? {
                  step: found.step,
                  kind: found.definition.kind,
                  meaning: found.definition.meaning ?? null,
                  assignees: [...found.definition.assignees] as NonNullable<SignatoryRow['cells'][number]>['assignees'],
                }
              : null;
          }),
        },
      ];
    }),
  );
  const ids = new Set(
    rows.flatMap(({ cells }) =>
      cells.flatMap((cell) => (cell?.assignees ?? []).flatMap((one) => (one.by === 'person' ? [one.personId] : []))),
    ),
  );
  const nameOf = await namesInRules(app.db, [...ids]);
  return { columns, rows, people: [...ids].map((id) => ({ id, name: nameOf(id) })) };
};

/** Changes whom many steps ask: each type gets one edition or one planned change, and all of them or none is changed. */
export const changeSignatories: Handler<typeof api.signatories.change> = (app, viewer, input) =>
  app.command(actorOf(viewer), async (work) => {
    const byType = groupBy(input.cells, (cell) => cell.typeId);
    for (const [typeId, cells] of byType) {
      const row = await getType(work.trx, typeId);
      const rule = toTypeRule(row);
      const known = allRoutes(rule);
      if (cells.some(({ place, step }) => !known.find((one) => one.place === place)?.route.steps[step]))
        throw refused('changed_meanwhile');
      const after = withAssignees(rule, cells, (before) => changedAssignees(before, input.assignees, input.how));
      await changeTypeIn(work, viewer, typeId, {
        rule: after as TypeRule,
        reason: input.reason,
        rowVersion: cells[0]?.rowVersion ?? row.row_version,
        from: input.from,
        fill: [],
      });
    }
    return { types: byType.size };
  });

/** How many changes the history shows. */
const MOST = 300;
const isOfRoutes = ({ what }: Difference): boolean => /^(route|routes|furtherRoutes)\b/.test(what);

/** What changed in the routes of all types, and what is planned, the newest first. */
export const signatoryHistory = async (app: App): Promise<AnswerOf<typeof api.signatories.history>> => {
  const types = await listTypes(app.db);
  const kept = groupBy(await editions.listEditionsOfKind(app.db, 'type'), (row) => row.subject_id);
  const planned = await editions.listPlanned(app.db);
  const nameOf = await namesInRules(app.db, [...kept.values()], planned);
  type Change = AnswerOf<typeof api.signatories.history>['changes'][number];
  const changes = types.flatMap((type): Change[] => {
    const own = kept.get(type.id) ?? [];
    const of = (before: unknown, after: unknown) =>
      differencesOf(before as TypeRule, after as TypeRule, nameOf).filter(isOfRoutes);
    return [
      ...planned
        .filter((plan) => plan.type_id === type.id)
        .map((plan) => ({
          typeId: type.id,
          code: type.code,
          at: null,
          from: plan.from_day,
          by: plan.by_name,
          reason: plan.reason,
          differences: of(toTypeRule(type), plan.value),
        })),
      ...own.slice(0, -1).map((edition, at) => ({
        typeId: type.id,
        code: type.code,
        at: edition.at.toISOString(),
        from: null,
        by: edition.by_name ?? 'Kanonos',
        reason: edition.reason,
        differences: of(own[at + 1]?.value, edition.value),
      })),
    ];
  });
  return {
    changes: changes
      .filter(({ differences }) => differences.length > 0)
      .sort((a, b) => (b.at ?? '9').localeCompare(a.at ?? '9'))
      .slice(0, MOST),
  };
};
