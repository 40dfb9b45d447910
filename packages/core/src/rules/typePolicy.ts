import type { ChangeNoteDemand, ChangeNoteUse } from '../changes/changeNote.ts';
import { type Refusal, refusal } from '../result.ts';
import type { ConditionField } from '../routes/condition.ts';
import { checkRoute, type RouteDefinition } from '../routes/route.ts';

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

/** The rules of a type for the life of its documents, beside number, name and fields. */
export type TypePolicy = {
  route: RouteDefinition;
  /** Routes of single change kinds, in place of that of the type. */
  routes: Readonly<Partial<Record<RoutedKind, RouteDefinition>>>;
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
  /** How long it is kept after it was superseded or withdrawn (ISO 15489-1). */
  keeping: { years: number; from: 'superseded' | 'withdrawn' } | null;
};

export const NO_POLICY: TypePolicy = {
  route: { name: '', steps: [] },
  routes: {},
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
  keeping: null,
};

/** The route that a revision of a change kind takes. */
export const routeOf = (
  policy: Pick<TypePolicy, 'route' | 'routes'>,
  changeKind: string | undefined,
): RouteDefinition => policy.routes[changeKind as RoutedKind] ?? policy.route;

/** What is wrong with it: routes that cannot be walked, sharing codes twice. */
export const checkTypePolicy = (policy: TypePolicy, fields: readonly ConditionField[] = []): Refusal[] => {
  const codes = policy.sharing.map(({ code }) => code);
  const twice = codes.find((code, i) => codes.indexOf(code) < i);
  return [
    ...[policy.route, ...Object.values(policy.routes)].flatMap((route) => checkRoute(route, fields)),
    ...(twice === undefined ? [] : [refusal('sharing_code_twice', { code: twice })]),
  ];
};
