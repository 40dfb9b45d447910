import type { ChangeNoteDemand, ChangeNoteUse } from '../changes/changeNote.ts';
import { type Refusal, refusal } from '../result.ts';
import { PLAIN_REVIEW, type ReviewRule } from '../reviews/review.ts';
import { type ConditionFacts, type ConditionField, meetsCondition, parseCondition } from '../routes/condition.ts';
import { checkRoute, leadsToRelease, type RouteDefinition } from '../routes/route.ts';

/** Change kinds that may have a route of their own; a first issue always takes the type's. */
export const ROUTED_KINDS = ['minor', 'major', 'editorial'] as const;
export type RoutedKind = (typeof ROUTED_KINDS)[number];

/** The default readers of a type, unless the document names its own. */
export type TypeReading = {
  unitIds: readonly string[];
  everyone?: boolean;
  workingDays: number;
  newJoinerDays: number;
  perChange: Readonly<Record<string, string>>;
  instructions: string;
};

/**
 * A route beside that of the type: taken where a condition on the document holds, or chosen on submitting. One that leads to nothing is
 * offered where a round is started outside the route.
 */
export type FurtherRoute = {
  route: RouteDefinition;
  taken: { by: 'condition'; when: string } | { by: 'choice'; mayChoose: 'author' | 'controller' };
};

/** The rules of a type for the life of its documents, beside number, name and fields. */
export type TypePolicy = {
  route: RouteDefinition;
  /** Routes of single change kinds, in place of that of the type. */
  routes: Readonly<Partial<Record<RoutedKind, RouteDefinition>>>;
  /** Routes beside these, for some documents or some occasions. */
  furtherRoutes: readonly FurtherRoute[];
  reading: TypeReading | null;
  /** Asked in a step where nobody else is found, before the organisation's own. */
  fallbackApproverId: string | null;
  /** Stored file names follow the naming rule. */
  followsNamingRule: boolean;
  /** Documents of outside origin are watched: checked at their source every so many months (ISO 9001, 7.5.3.2). */
  origin: { checkMonths: number } | null;
  /** Status codes under which information is shared, where the trade wants them (ISO 19650-2). */
  sharing: readonly { code: string; text: string }[];
  /** Lines on renditions and prints, with the tokens of file names. */
  head: string;
  foot: string;
  cover: boolean;
  /** Whether its revisions are made under a change note, and what of that note must be closed before they are released. */
  changeNote: ChangeNoteUse;
  changeNoteDemand: ChangeNoteDemand;
  /** Its documents are change notes: each names the documents that it affects and the tasks that it brings. */
  isChangeNote: boolean;
  /** How it is reviewed periodically, where the type has an interval. */
  review: ReviewRule;
  /** How long it is kept after it was superseded or withdrawn (ISO 15489-1). */
  keeping: { years: number; from: 'superseded' | 'withdrawn' } | null;
};

export const NO_POLICY: TypePolicy = {
  route: { name: '', steps: [] },
  routes: {},
  furtherRoutes: [],
  reading: null,
  fallbackApproverId: null,
  followsNamingRule: false,
  origin: null,
  sharing: [],
  head: '',
  foot: '',
  cover: false,
  changeNote: 'may',
  changeNoteDemand: 'tasks',
  isChangeNote: false,
  review: PLAIN_REVIEW,
  keeping: null,
};

/** What decides which route a revision takes. */
export type RouteQuestion = {
  changeKind: string | undefined;
  /** The facts of the document, for conditions; see `parseCondition`. */
  facts?: ConditionFacts;
  /** The name of a further route that whoever submits has chosen. */
  chosen?: string | null;
};

/** Whether some route of a type is taken by a condition, so that the facts of the document are needed. */
export const asksForFacts = ({ furtherRoutes }: Pick<TypePolicy, 'furtherRoutes'>): boolean =>
  furtherRoutes.some(({ taken }) => taken.by === 'condition');

/** The routes that may be chosen on submitting, by an author or by a controller. */
export const routesToChoose = (
  { furtherRoutes }: Pick<TypePolicy, 'furtherRoutes'>,
  isController: boolean,
): RouteDefinition[] =>
  furtherRoutes.flatMap(({ route, taken }) =>
    leadsToRelease(route) && taken.by === 'choice' && (isController || taken.mayChoose === 'author') ? [route] : [],
  );

/** The routes of a type that rounds outside its route may take. */
export const routesToNothing = ({ furtherRoutes }: Pick<TypePolicy, 'furtherRoutes'>): RouteDefinition[] =>
  furtherRoutes.flatMap(({ route }) => (leadsToRelease(route) ? [] : [route]));

/**
 * The route that a revision takes: the one chosen, or else the first further one whose condition the document meets, or else that of its
 * change kind, or else that of the type.
 */
export const routeOf = (
  policy: Pick<TypePolicy, 'route' | 'routes' | 'furtherRoutes'>,
  { changeKind, facts = {}, chosen }: RouteQuestion,
  fields: readonly ConditionField[] = [],
): RouteDefinition => {
  const named = chosen ? policy.furtherRoutes.find(({ route }) => route.name === chosen) : undefined;
  const met = policy.furtherRoutes.find(({ route, taken }) => {
    if (taken.by !== 'condition' || !leadsToRelease(route)) return false;
    const condition = parseCondition(taken.when, fields);
    return condition.ok && meetsCondition(condition.value, facts);
  });
  return (named ?? met)?.route ?? policy.routes[changeKind as RoutedKind] ?? policy.route;
};

/** Every route of a type with the place that it has there. */
export const allRoutes = (
  policy: Pick<TypePolicy, 'route' | 'routes' | 'furtherRoutes'>,
): { place: string; route: RouteDefinition }[] => [
  { place: '', route: policy.route },
  ...Object.entries(policy.routes).flatMap(([place, route]) => (route ? [{ place, route }] : [])),
  ...policy.furtherRoutes.map(({ route }, at) => ({ place: `further ${at}`, route })),
];

/** What is wrong with the further routes: one without a name or with that of another, a condition that cannot be read. */
const checkFurther = (further: readonly FurtherRoute[], fields: readonly ConditionField[]): Refusal[] => {
  const names = further.map(({ route }) => route.name.trim());
  const wrong = names.find((name, at) => name === '' || names.indexOf(name) < at);
  return [
    ...(wrong === undefined ? [] : [refusal('further_route_named', { name: wrong })]),
    ...further.flatMap(({ route, taken }) => {
      const condition = taken.by === 'condition' ? parseCondition(taken.when, fields) : undefined;
      return condition && !condition.ok && taken.by === 'condition'
        ? [refusal('step_condition_unreadable', { step: route.name, condition: taken.when }), ...condition.refusals]
        : [];
    }),
  ];
};

/** What is wrong with it: routes that cannot be walked, sharing codes twice. */
export const checkTypePolicy = (policy: TypePolicy, fields: readonly ConditionField[] = []): Refusal[] => {
  const codes = policy.sharing.map(({ code }) => code);
  const twice = codes.find((code, i) => codes.indexOf(code) < i);
  return [
    ...allRoutes(policy).flatMap(({ route }) => checkRoute(route, fields)),
    ...checkFurther(policy.furtherRoutes, fields),
    ...(twice === undefined ? [] : [refusal('sharing_code_twice', { code: twice })]),
  ];
};
