import { namingTokens } from '../naming/fileName.ts';
import { parseRule } from '../numbering/rule.ts';
import { allRoutes } from './typePolicy.ts';
import type { TypeRule } from './typeRule.ts';

/** What of a type goes by a field. */
export type FieldUse =
  | { what: 'number' | 'file name' | 'folder' | 'header or footer' }
  | { what: 'step'; step: string; route: string }
  | { what: 'reminder'; days: number; field: string }
  | { what: 'options' | 'filling'; field: string };

/** Everything that a field drives in its type: numbering, naming, filing, who is asked, reminders and other fields. */
export const fieldUses = (rule: TypeRule, key: string): FieldUse[] => {
  const numbering = rule.numbering === null ? undefined : parseRule(rule.numbering);
  const named = (text: string) => (namingTokens(text) ?? []).includes(`field:${key}`);
  const uses: FieldUse[] = [];
  if (numbering?.ok && numbering.value.elements.some((one) => one.kind === 'code' && one.key === key))
    uses.push({ what: 'number' });
  if (named(rule.naming)) uses.push({ what: 'file name' });
  if (rule.filing?.includes(`{field:${key}}`)) uses.push({ what: 'folder' });
  if (named(rule.head) || named(rule.foot)) uses.push({ what: 'header or footer' });
  for (const { place, route } of allRoutes(rule))
    for (const step of route.steps)
      if (step.assignees.some((assignees) => assignees.by === 'field' && assignees.key === key))
        uses.push({ what: 'step', step: step.name, route: place.startsWith('further') ? route.name : place });
  for (const field of rule.fields) {
    const { remind } = field;
    if (remind && (field.key === key || remind.to === key))
      uses.push({ what: 'reminder', days: remind.days, field: field.label });
    if (field.dependsOn === key) uses.push({ what: 'options', field: field.label });
    if (field.key === key)
      for (const filled of Object.keys(field.fills ?? {}))
        uses.push({ what: 'filling', field: rule.fields.find((one) => one.key === filled)?.label ?? filled });
  }
  return uses;
};
