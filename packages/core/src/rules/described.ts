type Record_ = Readonly<Record<string, unknown>>;
type NameOf = (id: string) => string;

const asRecord = (value: unknown): Record_ | undefined =>
  typeof value === 'object' && value !== null && !Array.isArray(value) ? (value as Record_) : undefined;
const asList = (value: unknown): readonly unknown[] => (Array.isArray(value) ? value : []);
const count = (n: unknown, one: string, many: string) => `${n} ${n === 1 ? one : many}`;

/** Who a step asks, as words. */
const askedInWords = (assignees: unknown, nameOf: NameOf, labels: ReadonlyMap<unknown, unknown>): string => {
  const who = asRecord(assignees) ?? {};
  switch (who.by) {
    case 'person':
      return nameOf(String(who.personId));
    case 'unit':
      return nameOf(String(who.unitId));
    case 'owner':
      return 'the owner';
    case 'owner supervisor':
      return 'the supervisor of the owner';
    case 'author':
      return 'the author';
    case 'field':
      return `the person named in ${labels.get(who.key) ?? who.key}`;
    default: {
      const chosen = Number(who.minimum) > 0 ? `chosen by the author, at least ${who.minimum}` : 'chosen by the author';
      return who.fromUnitId === undefined ? chosen : `${chosen}, from ${nameOf(String(who.fromUnitId))}`;
    }
  }
};

const answersInWords = (rule: unknown): string => {
  const { kind, k } = asRecord(rule) ?? {};
  if (kind === 'k of n') return `${k} of them`;
  return { all: 'all of them', 'any one': 'any one of them', 'in sequence': 'one after the other' }[String(kind)] ?? '';
};

const TARGETS: Record_ = { supervisor: 'their supervisor', owner: 'the owner', submitter: 'whoever submitted' };

/** What happens when somebody has not answered, as a phrase. */
const escalationInWords = (one: unknown, nameOf: NameOf): string => {
  const { afterDays, action, to } = asRecord(one) ?? {};
  const target = asRecord(to);
  const whom = target?.by === 'person' ? nameOf(String(target.personId)) : TARGETS[String(target?.by)];
  return `after ${count(afterDays, 'working day', 'working days')} ${action}${whom === undefined ? '' : ` ${whom}`}`;
};

const stepsInWords = (route: unknown, nameOf: NameOf, labels: ReadonlyMap<unknown, unknown>) => {
  const described = asRecord(route);
  if (!described) return route;
  const names = new Map<string, number>();
  return {
    ...described,
    steps: asList(described.steps).map((one) => {
      const step = asRecord(one) ?? {};
      const name = String(step.name);
      const nth = (names.get(name) ?? 0) + 1;
      names.set(name, nth);
      return {
        key: nth === 1 ? name : `${name} (${nth})`,
        kind: step.kind,
        meaning: step.meaning,
        assignees: asList(step.assignees).map((who) => askedInWords(who, nameOf, labels)),
        rule: answersInWords(step.rule),
        workingDays: step.workingDays,
        editing: step.editing,
        beside: step.beside,
        when: step.when,
        dueField: step.dueField === undefined ? undefined : (labels.get(step.dueField) ?? step.dueField),
        keepsAgreed: step.keepsAgreed,
        keepsDecisions: step.keepsDecisions,
        escalations: asList(step.escalations).map((one) => escalationInWords(one, nameOf)),
        onReject: step.onReject === 'draft' ? 'back to draft' : `back to step ${Number(step.onReject) + 1}`,
      };
    }),
  };
};

/**
 * A type's rule for comparing two editions: people and units by their names, steps by theirs, and what is set
 * in parts as a phrase. It is for reading and keeps apart no more than names do; whether two rules are the same is asked of the rules.
 *
 * @param nameOf the name of a person or unit by its id
 */
export const describedTypeRule = (rule: Record_, nameOf: NameOf): Record<string, unknown> => {
  const { route, routes, furtherRoutes, reading, registerUnitIds, fallbackApproverId, origin, keeping, ...rest } = rule;
  const labels = new Map(asList(rule.fields).map((field) => [asRecord(field)?.key, asRecord(field)?.label]));
  const names = (ids: unknown) => asList(ids).map((id) => nameOf(String(id)));
  const [read, source, kept] = [asRecord(reading), asRecord(origin), asRecord(keeping)];
  return {
    ...rest,
    registerUnitIds: names(registerUnitIds),
    fallbackApproverId: fallbackApproverId ? nameOf(String(fallbackApproverId)) : null,
    route: stepsInWords(route, nameOf, labels),
    routes: Object.fromEntries(
      Object.entries(asRecord(routes) ?? {}).map(([kind, one]) => [kind, stepsInWords(one, nameOf, labels)]),
    ),
    furtherRoutes: asList(furtherRoutes).map((one) => {
      const { route: further, taken } = asRecord(one) ?? {};
      const how = asRecord(taken) ?? {};
      return {
        key: String(asRecord(further)?.name),
        taken: how.by === 'condition' ? `where ${how.when}` : `chosen by the ${how.mayChoose}`,
        route: stepsInWords(further, nameOf, labels),
      };
    }),
    reading: read ? { ...read, unitIds: names(read.unitIds) } : null,
    origin: source ? `checked every ${count(source.checkMonths, 'month', 'months')}` : null,
    keeping: kept ? `${count(kept.years, 'year', 'years')} after it was ${kept.from}` : null,
  };
};

/** Groups that are filled by rule, by name, with the units that one must belong to. */
export const describedGroupRules = (
  rules: readonly { key: string; unitIds: readonly string[] }[],
  nameOf: NameOf,
): { key: string; holds: string }[] =>
  rules.map(({ key, unitIds }) => ({ key: nameOf(key), holds: `who is in ${unitIds.map(nameOf).join(' and ')}` }));
