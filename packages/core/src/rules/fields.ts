import {
  checkMetadata,
  defaultMetadata,
  FIELD_KINDS,
  type FieldDefinition,
  type FieldOption,
} from '../metadata/metadata.ts';
import { type Refusal, refusal } from '../result.ts';

const KEY = /^[a-z][A-Za-z0-9]{0,39}$/;
/** Names that search, file names and lists have taken already. */
const RESERVED_KEYS = new Set(
  'number title type folder owner author state keyword due effective changed reason summary revision date version parent applies kept confidentiality sharing check missing'.split(
    ' ',
  ),
);
const MOST_FIELDS = 80;

/**
 * What is wrong with the fields of a type: keys that are unusable or twice, kinds without what they need, patterns that cannot
 * be read, defaults that do not fit, dependences that lead nowhere or in a circle.
 */
export const checkFields = (fields: readonly FieldDefinition[]): Refusal[] => {
  const byKey = new Map(fields.map((field) => [field.key, field]));
  const refusals: Refusal[] = fields.length > MOST_FIELDS ? [refusal('fields_too_many', { limit: MOST_FIELDS })] : [];
  fields.forEach((field, index) => {
    const named = { field: field.label || `Field ${index + 1}` };
    if (!field.label.trim()) refusals.push(refusal('field_without_label', named));
    if (!KEY.test(field.key)) refusals.push(refusal('field_key_invalid', { ...named, key: field.key }));
    else if (RESERVED_KEYS.has(field.key)) refusals.push(refusal('field_key_reserved', { ...named, key: field.key }));
    else if (fields.findIndex((other) => other.key === field.key) < index)
      refusals.push(refusal('field_key_twice', { ...named, key: field.key }));
    if (!FIELD_KINDS.includes(field.kind)) refusals.push(refusal('field_kind_unknown', { ...named, kind: field.kind }));
    const isChoice = field.kind === 'choice' || field.kind === 'choices';
    if (isChoice && !field.list && !field.options?.length) refusals.push(refusal('field_without_options', named));
    if (isChoice && !field.list) refusals.push(...checkOptions(field.label, field.options ?? []));
    if (field.kind === 'entry' && !field.list) refusals.push(refusal('field_without_list', named));
    if (field.pattern !== undefined && !isPattern(field.pattern))
      refusals.push(refusal('field_pattern_unreadable', { ...named, pattern: field.pattern }));
    if (field.dependsOn !== undefined) {
      const above = byKey.get(field.dependsOn);
      if (above?.kind !== 'choice' || !isChoice)
        refusals.push(refusal('field_depends_on_nothing', { ...named, on: above?.label ?? field.dependsOn }));
      else if (isCircle(field, byKey)) refusals.push(refusal('field_depends_in_circle', { ...named, on: above.label }));
    }
    const to = field.remind?.to;
    if (field.remind && (field.kind !== 'date' || (to !== 'owner' && byKey.get(to ?? '')?.kind !== 'person')))
      refusals.push(refusal('field_remind_wrong', named));
    for (const key of Object.keys(field.fills ?? {}))
      if (!byKey.has(key) || key === field.key) refusals.push(refusal('field_fills_nothing', { ...named, key }));
    if (field.default?.from === 'fixed') {
      const values = defaultMetadata([field], { today: '', me: '', folder: {}, parent: {} });
      const { dependsOn: _, ...alone } = field;
      const [misfit] = checkMetadata([alone], values);
      if (misfit)
        refusals.push(refusal('field_default_misfits', { ...named, wanted: String(misfit.params?.wanted ?? '') }));
    }
    if (field.default?.from === 'today' && field.kind !== 'date')
      refusals.push(refusal('field_default_misfits', { ...named, wanted: 'a date field' }));
    if (field.default?.from === 'me' && field.kind !== 'person' && field.kind !== 'people')
      refusals.push(refusal('field_default_misfits', { ...named, wanted: 'a person field' }));
  });
  return refusals;
};

/** Codes of options must be there, once each, and usable in numbers and addresses. */
export const checkOptions = (name: string, options: readonly FieldOption[]): Refusal[] => {
  const seen = new Set<string>();
  return options.flatMap((option, index) => {
    const code = option.code.trim();
    if (!code || code.length > 60 || code.includes('~'))
      return [refusal('option_code_invalid', { field: name, line: index + 1 })];
    if (seen.has(code)) return [refusal('option_code_twice', { field: name, option: code })];
    seen.add(code);
    return [];
  });
};

export const isPattern = (pattern: string): boolean => {
  try {
    new RegExp(`^(?:${pattern})$`, 'u');
    return pattern.length <= 300;
  } catch {
    return false;
  }
};

const isCircle = (start: FieldDefinition, byKey: ReadonlyMap<string, FieldDefinition>): boolean => {
  const seen = new Set([start.key]);
  for (let at = byKey.get(start.dependsOn ?? ''); at; at = byKey.get(at.dependsOn ?? '')) {
    if (seen.has(at.key)) return true;
    seen.add(at.key);
  }
  return false;
};
