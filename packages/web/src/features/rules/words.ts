import type { Difference, Field, Scheme, TypeDetail, TypeRule } from '@kanonos/contract';
import { sentenceOf } from '@kanonos/contract';
import {
  checkTypeRule,
  type FieldUse,
  findCollision,
  firstLabel,
  type KnownRule,
  type NumberInput,
  nextLabel,
  parseRule,
  renderNumber,
  scopeOf,
} from '@kanonos/core';

/** A type that is looked at: one of the organisation, or one that is being made. */
export type Edited = TypeDetail | { id: null; rule: TypeRule };

/** What a place in a rule is called on the screen. */
const PLACES: Record<string, string> = {
  code: 'Code',
  name: 'Name',
  family: 'Family',
  group: 'Group',
  help: 'Purpose',
  example: 'Example',
  numbering: 'Numbering rule',
  externalPattern: 'Pattern of external numbers',
  naming: 'Naming rule',
  filing: 'Filing rule',
  scheme: 'Revision labels',
  fields: 'Fields',
  readersNeeded: 'Readers required',
  reviewEvery: 'Review interval',
  review: 'Periodic review',
  releaseWithoutRoute: 'Released without a route',
  takeOver: 'Legacy import allowed',
  registerUnitIds: 'Who may register',
  retired: 'Retired',
  route: 'Route',
  routes: 'Routes of change kinds',
  furtherRoutes: 'Further routes',
  taken: 'when it is taken',
  steps: 'steps',
  reading: 'Required reading',
  fallbackApproverId: 'Fallback approver',
  followsNamingRule: 'Stored names by rule',
  origin: 'External documents',
  sharing: 'Sharing codes',
  head: 'Header',
  foot: 'Footer',
  cover: 'Cover page',
  keeping: 'Retention',
  changeNote: 'Revised under a change note',
  changeNoteDemand: 'Change note before release',
  isChangeNote: 'Documents are change notes',
  mandatory: 'required',
  signed: 'signed',
  label: 'label',
  kind: 'kind',
  options: 'options',
  list: 'list',
  dependsOn: 'depends on',
  pattern: 'pattern',
  patternWords: 'validation message',
  unique: 'unique',
  default: 'default value',
  unit: 'unit',
  from: 'counted from',
  fixedDay: 'fixed day',
  minorChange: 'after a minor or editorial change',
  daysAhead: 'owner is asked, days ahead',
  mostDaysPostponed: 'postponed by days at most',
  escalateAfterDays: 'supervisor is told, days after',
  week: 'Working days',
  zone: 'Time zone',
  holidays: 'Holidays',
  ownStates: 'Own states',
  signatureMeanings: 'Meanings of signatures outside rounds',
  signingIdleMinutes: 'Minutes until a signing period ends',
  fallbackApprover: 'Fallback approver',
  confidentiality: 'Confidentiality',
  colour: 'Colour',
  logo: 'Logo',
  stateWords: 'Labels of states',
  groupRules: 'Groups by rule',
  holds: 'holds',
  assignees: 'assignees',
  rule: 'answers required',
  meaning: 'meaning of the signature',
  workingDays: 'working days',
  onReject: 'rejected',
  editing: 'assignees may check in',
  beside: 'at the same time as the step before',
  when: 'condition',
  dueField: 'due on the day in',
  keepsAgreed: 'agreed reviews keep their answers',
  keepsDecisions: 'decisions stay after a check-in',
  escalations: 'when nobody answers',
  unitIds: 'units',
  everyone: 'everyone',
  newJoinerDays: 'days for new joiners',
  perChange: 'per change kind',
  instructions: 'instructions',
  entries: 'Entries',
  metadata: 'Metadata',
  text: 'text',
  under: 'under',
};

/** `fields.limit.mandatory` as words: Fields, limit, mandatory. */
export const placeInWords = (what: string): string =>
  what
    .split('.')
    .map((part) => PLACES[part] ?? part)
    .join(' › ');

/** One difference as a short phrase: added, removed, or changed from one to the other. */
export const differenceWords = ({
  what,
  before,
  after,
}: Difference): { where: string; before: string; after: string } => ({
  where: placeInWords(what),
  before: before === '–' ? '' : before,
  after: after === '–' ? '' : after,
});

/** What the rules of the core say of a draft, as sentences; each begins with the field that it is about. */
export const refusalsOf = (rule: TypeRule): string[] =>
  checkTypeRule(rule).map(({ code, params }) => sentenceOf(code, params));

/** The rules of the organisation as they would be with a draft: the type leaves its old rule and joins, or brings, the new one. */
export const rulesWith = (rules: readonly KnownRule[], before: string, rule: TypeRule): KnownRule[] => {
  const without = rules.flatMap((organisation) => {
    const types = organisation.codes.types.filter((code) => code !== before);
    return organisation.retired || types.length > 0
      ? [{ ...organisation, codes: { ...organisation.codes, types } }]
      : [];
  });
  if (rule.numbering === null || rule.retired) return without;
  const parsed = parseRule(rule.numbering);
  if (!parsed.ok) return without;
  const codes = rules[0]?.codes ?? { types: [], areas: [], departments: [], fields: {} };
  const fields = Object.fromEntries(
    rule.fields.map((field) => [field.key, (field.options ?? []).map((option) => option.code)]),
  );
  const same = without.find((organisation) => organisation.id === rule.numbering);
  const joined: KnownRule = {
    id: rule.numbering,
    rule: parsed.value,
    codes: { ...codes, types: [...(same?.codes.types ?? []), rule.code], fields: { ...same?.codes.fields, ...fields } },
  };
  return [...without.filter((organisation) => organisation !== same), joined];
};

/** The first number that could be read in two ways, as a sentence; nothing when the rules keep all numbers apart. */
export const collisionWords = (rules: readonly KnownRule[]): string | undefined => {
  const collision = findCollision(rules);
  return collision
    ? sentenceOf('rule_ambiguous', {
        number: collision.number,
        first: collision.readings[0],
        second: collision.readings[1],
      })
    : undefined;
};

/** Numbers that a rule would give next, for a few areas where it counts by them. */
export const sampleNumbers = (
  rule: TypeRule,
  codes: { areas: readonly string[]; departments: readonly string[] },
  counters: ReadonlyMap<string, number>,
  day: string,
): { where: string; number: string }[] => {
  const parsed = rule.numbering === null ? undefined : parseRule(rule.numbering);
  if (!parsed?.ok) return [];
  const has = (token: string) => rule.numbering?.includes(`{${token}`) ?? false;
  const fields = Object.fromEntries(rule.fields.map((field) => [field.key, field.options?.[0]?.code]));
  const areas = has('area') ? codes.areas.slice(0, 3) : [undefined];
  return areas.flatMap((area) => {
    const metadata: NumberInput = {
      type: rule.code,
      day,
      fields,
      ...(area ? { area } : {}),
      ...(codes.departments[0] ? { department: codes.departments[0] } : {}),
      parent: 'PARENT-0001',
    };
    const scope = scopeOf(parsed.value, metadata);
    if (!scope.ok) return [];
    const number = renderNumber(parsed.value, metadata, (counters.get(scope.value) ?? 0) + 1);
    return number.ok ? [{ where: area ? `area ${area}` : '', number: number.value }] : [];
  });
};

/** The first labels that a scheme gives. */
export const sampleLabels = (scheme: Scheme): string => {
  if (scheme.kind === 'none') return 'one revision, no label';
  if (scheme.kind === 'own') return "supplier's labels";
  const first = firstLabel(scheme);
  if (!first.ok) return '';
  const labels = [first.value];
  for (let i = 0; i < 4; i++) {
    const next = nextLabel(scheme, labels.at(-1) ?? '', 'major');
    if (!next.ok) break;
    labels.push(next.value);
  }
  return labels.join(', ');
};

/** A key made from a label: `Tested on` → `testedOn`. */
export const keyFrom = (label: string, taken: readonly string[]): string => {
  const words = label
    .normalize('NFD')
    .replace(/\p{M}/gu, '')
    .match(/[A-Za-z0-9]+/g) ?? ['field'];
  const made = words
    .map((word, i) => (i === 0 ? word.toLowerCase() : word.charAt(0).toUpperCase() + word.slice(1).toLowerCase()))
    .join('')
    .replace(/^[0-9]+/, '')
    .replace(/^[A-Z]/, (letter) => letter.toLowerCase())
    .slice(0, 30);
  const key = made || 'field';
  if (!taken.includes(key)) return key;
  let n = 2;
  while (taken.includes(`${key}${n}`)) n++;
  return `${key}${n}`;
};

/** What a field drives, as a part of a sentence. */
export const useInWords = (use: FieldUse): string => {
  switch (use.what) {
    case 'step':
      return `assignees in ${use.step}${use.route ? ` (${use.route} change)` : ''}`;
    case 'reminder':
      return `a reminder ${use.days} days before ${use.field}`;
    case 'options':
      return `options of ${use.field}`;
    case 'filling':
      return `the value of ${use.field}`;
    default:
      return `the ${use.what}`;
  }
};

export const KIND_WORDS: Record<Field['kind'], string> = {
  text: 'text',
  'long text': 'long text',
  number: 'number',
  date: 'day',
  'yes/no': 'yes or no',
  choice: 'one choice',
  choices: 'several choices',
  person: 'person',
  people: 'people',
  department: 'department',
  site: 'site',
  folder: 'folder',
  document: 'document',
  'web address': 'web address',
  entry: 'entry of a look-up list',
};
