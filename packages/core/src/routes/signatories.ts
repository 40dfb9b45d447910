import { allRoutes, type TypePolicy } from '../rules/typePolicy.ts';
import type { AssigneeRule, RouteDefinition, StepDefinition } from './route.ts';

type Routed = Pick<TypePolicy, 'route' | 'routes' | 'furtherRoutes'>;

/** A step with the name of its column: the second of one name in a route has a column of its own. */
export type NamedStep = { column: string; step: number; definition: StepDefinition };

export const namedSteps = ({ steps }: RouteDefinition): NamedStep[] => {
  const seen = new Map<string, number>();
  return steps.map((definition, step) => {
    const nth = (seen.get(definition.name) ?? 0) + 1;
    seen.set(definition.name, nth);
    return { column: nth === 1 ? definition.name : `${definition.name} (${nth})`, step, definition };
  });
};

/**
 * The columns of the table of signatories: every step name of the routes, in the order of the steps. What stands only in further routes
 * comes after what the usual ones have.
 */
export const signatoryColumns = (types: readonly Routed[]): string[] => {
  const uses = new Map<string, { steps: number[]; isUsual: boolean }>();
  for (const type of types)
    for (const { place, route } of allRoutes(type))
      for (const { column, step } of namedSteps(route)) {
        const known = uses.get(column) ?? { steps: [], isUsual: false };
        known.steps.push(step);
        known.isUsual ||= !place.startsWith('further');
        uses.set(column, known);
      }
  const mean = ({ steps }: { steps: readonly number[] }) => steps.reduce((sum, one) => sum + one, 0) / steps.length;
  return [...uses]
    .sort(
      ([nameA, a], [nameB, b]) =>
        Number(b.isUsual) - Number(a.isUsual) ||
        mean(a) - mean(b) ||
        b.steps.length - a.steps.length ||
        (nameA < nameB ? -1 : 1),
    )
    .map(([name]) => name);
};

const isSame = (a: AssigneeRule, b: AssigneeRule): boolean => {
  if (a.by === 'chosen' && b.by === 'chosen') return true;
  return JSON.stringify(Object.entries(a).sort()) === JSON.stringify(Object.entries(b).sort());
};

/** Those asked after a change: in place of those before, besides them, or without them. */
export const changedAssignees = (
  before: readonly AssigneeRule[],
  given: readonly AssigneeRule[],
  how: 'replace' | 'add' | 'remove',
): AssigneeRule[] => {
  if (how === 'replace') return [...given];
  if (how === 'remove') return before.filter((one) => !given.some((other) => isSame(one, other)));
  return [...before, ...given.filter((one) => !before.some((other) => isSame(one, other)))];
};

/** The routes of a type with other people in some of its steps; a place or step that there is not changes nothing. */
export const withAssignees = <Type extends Routed>(
  type: Type,
  cells: readonly { place: string; step: number }[],
  change: (before: readonly AssigneeRule[]) => AssigneeRule[],
): Type => {
  const changed = <Route extends RouteDefinition | undefined>(route: Route, place: string): Route => {
    if (!route || !cells.some((cell) => cell.place === place)) return route;
    const steps = route.steps.map((definition, step) =>
      cells.some((cell) => cell.place === place && cell.step === step)
        ? { ...definition, assignees: change(definition.assignees) }
        : definition,
    );
    return { ...route, steps };
  };
  return {
    ...type,
    route: changed(type.route, ''),
    routes: Object.fromEntries(Object.entries(type.routes).map(([kind, route]) => [kind, changed(route, kind)])),
    furtherRoutes: type.furtherRoutes.map((one, at) => ({ ...one, route: changed(one.route, `further ${at}`) })),
  };
};
