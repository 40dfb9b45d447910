import { checkFilingRule } from '../filing/filing.ts';
import { type FieldDefinition, matchesWhole } from '../metadata/metadata.ts';
import { DEFAULT_NAMING_RULE, namingTokens } from '../naming/fileName.ts';
import { parseRule } from '../numbering/rule.ts';
import { type Refusal, refusal } from '../result.ts';
import { checkReviewRule } from '../reviews/review.ts';
import type { RevisionScheme } from '../revisions/labels.ts';
import { checkFields, isPattern } from './fields.ts';
import { checkTypePolicy, NO_POLICY, type TypePolicy } from './typePolicy.ts';

/** The rules of the organisation for a type of documents. */
export type TypeRule = TypePolicy & {
  code: string;
  name: string;
  /** Its place in the classification: family, group, type. Either may be empty. */
  family: string;
  group: string;
  help: string;
  example: string;
  /** Null where numbers come from outside. */
  numbering: string | null;
  externalPattern: string | null;
  naming: string;
  /** Where documents are filed by rule; null where the folder is chosen at registration. */
  filing: string | null;
  scheme: RevisionScheme;
  fields: readonly FieldDefinition[];
  readersNeeded: boolean;
  /** 0 where nothing is reviewed periodically. */
  reviewEvery: number;
  releaseWithoutRoute: boolean;
  /** Whether released states of legacy documents may be taken over. */
  takeOver: boolean;
  /** Who of those with *author* may register; nobody named: all of them. */
  registerUnitIds: readonly string[];
  retired: boolean;
};

/** A type before anything is configured for it. */
export const NEW_TYPE: TypeRule = {
  ...NO_POLICY,
  code: '',
  name: '',
  family: '',
  group: '',
  help: '',
  example: '',
  numbering: '{type}-{counter:4}',
  externalPattern: null,
  naming: DEFAULT_NAMING_RULE,
  filing: null,
  scheme: { kind: 'letters' },
  fields: [],
  readersNeeded: false,
  reviewEvery: 12,
  releaseWithoutRoute: false,
  takeOver: false,
  registerUnitIds: [],
  retired: false,
};

const CODE = /^[\p{L}\p{N}][\p{L}\p{N}-]{0,11}$/u;

/** What is wrong with a type's rule by itself; that numbers stay apart is proven over the whole organisation (`findCollision`). */
export const checkTypeRule = (rule: TypeRule): Refusal[] => {
  const refusals: Refusal[] = [];
  if (!CODE.test(rule.code)) refusals.push(refusal('type_code_invalid', { code: rule.code }));
  if (!rule.name.trim()) refusals.push(refusal('type_without_name'));
  if (rule.numbering !== null && rule.externalPattern !== null) refusals.push(refusal('type_number_source'));
  if (rule.numbering !== null) refusals.push(...checkNumbering(rule.numbering, rule.fields));
  if (rule.externalPattern !== null && !isPattern(rule.externalPattern))
    refusals.push(refusal('external_pattern_unreadable', { pattern: rule.externalPattern }));
  refusals.push(...checkNaming(rule.naming, rule.fields), ...checkScheme(rule.scheme), ...checkFields(rule.fields));
  if (rule.filing !== null) refusals.push(...checkFilingRule(rule.filing, rule.fields));
  refusals.push(...checkReviewRule(rule.review, rule.reviewEvery));
  refusals.push(...checkTypePolicy(rule, rule.fields));
  return refusals;
};

/** A numbering rule may name metadata only whose values are known beforehand: a free text could spell anything. */
const checkNumbering = (text: string, fields: readonly FieldDefinition[]): Refusal[] => {
  const parsed = parseRule(text);
  if (!parsed.ok) return parsed.refusals;
  return parsed.value.elements.flatMap((element) => {
    if (element.kind !== 'code' || element.token !== 'field') return [];
    const field = fields.find((one) => one.key === element.key);
    if (!field) return [refusal('rule_field_unknown', { token: `field:${element.key}` })];
    if (field.kind !== 'choice') return [refusal('rule_field_free', { field: field.label })];
    if (!field.mandatory) return [refusal('rule_field_not_mandatory', { field: field.label })];
    return [];
  });
};

const NAME_TOKENS = new Set(['number', 'revision', 'title', 'ext', 'date', 'version']);

const checkNaming = (text: string, fields: readonly FieldDefinition[]): Refusal[] => {
  const tokens = namingTokens(text);
  if (tokens === undefined) return [refusal('naming_brace_unmatched')];
  const unknown = tokens.filter(
    (token) => !NAME_TOKENS.has(token) && !fields.some((field) => token === `field:${field.key}`),
  );
  return [
    ...unknown.map((token) => refusal('naming_token_unknown', { token })),
    ...(tokens.at(-1) === 'ext' && text.endsWith('.{ext}') ? [] : [refusal('naming_without_ext')]),
    ...(tokens.includes('number') || tokens.includes('title') ? [] : [refusal('naming_says_nothing')]),
  ];
};

const checkScheme = (scheme: RevisionScheme): Refusal[] => {
  if (scheme.kind === 'integers')
    return scheme.width === undefined || (scheme.width >= 1 && scheme.width <= 4)
      ? []
      : [refusal('scheme_width_invalid')];
  if (scheme.kind !== 'staged') return [];
  if (scheme.stages.length === 0) return [refusal('scheme_without_stages')];
  const prefixes = scheme.stages.map((stage) => ('letters' in stage ? '' : stage.prefix));
  const twice = prefixes.find((prefix, index) => prefixes.indexOf(prefix) < index);
  if (twice !== undefined) return [refusal('scheme_stage_twice', { stage: twice || 'letters' })];
  // A prefix that is followed by digits must not end in one, and letters alone belong to a stage of letters.
  const wrong = scheme.stages.find(
    (stage) => !('letters' in stage) && (!/^[\p{L}-]{0,6}$/u.test(stage.prefix) || stage.width < 1 || stage.width > 4),
  );
  return wrong ? [refusal('scheme_stage_invalid')] : [];
};

/** What is wrong with an outside number by its type's pattern, if it has one. */
export const fitsOutside = (pattern: string | null, number: string): boolean =>
  pattern === null || matchesWhole(pattern, number);
