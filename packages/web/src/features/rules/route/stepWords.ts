import type { Step, TypeRule, Unit } from '@kanonos/contract';
import { CONDITION_FIELDS, type ConditionField, type ConditionRow, conditionRows } from '@kanonos/core';
import { wording as rules } from '../wording.ts';
import { wording } from './wording.ts';

/** What names people, units and fields in the words of a step. */
export type Named = { nameOf: (id: string) => string; units: readonly Unit[]; fields: TypeRule['fields'] };

type AssigneeRule = Step['assignees'][number];

export const assigneeWords = (one: AssigneeRule, { nameOf, units, fields }: Named): string => {
  switch (one.by) {
    case 'person':
      return nameOf(one.personId);
    case 'unit':
      return units.find((unit) => unit.id === one.unitId)?.name ?? '…';
    case 'owner':
      return rules.theOwner;
    case 'owner supervisor':
      return rules.theSupervisorOfTheOwner;
    case 'author':
      return wording.theAuthor;
    case 'field':
      return rules.thePersonNamedIn2(fields.find((field) => field.key === one.key)?.label ?? one.key);
    case 'chosen': {
      const from = units.find((unit) => unit.id === one.fromUnitId);
      return rules.chosenByTheAuthorAtLeast(one.minimum) + (from ? wording.from(from.name) : '');
    }
  }
};

export const ruleWords = (rule: Step['rule']): string =>
  rule.kind === 'k of n' ? wording.ofThem(rule.k) : wording.rules[rule.kind];

/** The fields of a type as conditions ask for them: those that say what a document is, not what it holds. */
export const conditionFields = (fields: TypeRule['fields']): ConditionField[] =>
  fields.map(({ key, kind, mandatory, options }) => ({ key, kind, mandatory, ...(options ? { options } : {}) }));

/** The fields that a condition can ask for, with their labels. */
export const askable = (fields: TypeRule['fields']) => [
  ...CONDITION_FIELDS.map((key) => ({ key: key as string, label: wording.builtIn[key] ?? key })),
  ...fields.map(({ key, label }) => ({ key, label })),
];

const rowWords = ({ field, operator, values }: ConditionRow, fields: TypeRule['fields']): string => {
  const label = askable(fields).find(({ key }) => key === field)?.label ?? field;
  const options = fields.find(({ key }) => key === field)?.options ?? [];
  const shown = values.map((value) => options.find(({ code }) => code === value)?.text ?? value);
  return [label, wording.operators[operator], shown.join(wording.or)].filter(Boolean).join(' ');
};

/** A condition in words; as it is written where rows cannot show it. */
export const conditionWords = (when: string, fields: TypeRule['fields']): string =>
  conditionRows(when, conditionFields(fields))
    ?.map((row) => rowWords(row, fields))
    .join(', ') ?? when;

type EscalationLine = NonNullable<Step['escalations']>[number];

const targetWords = (line: EscalationLine, nameOf: Named['nameOf']): string => {
  if (line.action === 'remind') return '';
  return line.to.by === 'person' ? nameOf(line.to.personId) : wording.targets[line.to.by];
};

export const escalationWords = (line: EscalationLine, nameOf: Named['nameOf']): string =>
  wording.afterDays(line.afterDays, `${wording.actions[line.action]} ${targetWords(line, nameOf)}`.trim());
