import type { FormQuestionBody } from '@kanonos/contract';
import {
  asField,
  type ConditionOperator,
  type ConditionRow,
  conditionRows,
  conditionText,
  type FormQuestion,
} from '@kanonos/core';
import { wording } from './wording.ts';

/** How an answer can be compared, by the kind of its question. */
export const operatorsFor = (question: FormQuestionBody | undefined): ConditionOperator[] =>
  question?.kind === 'number' || question?.kind === 'date'
    ? ['is', 'at least', 'at most', 'is given', 'is not given']
    : ['is', 'is not', 'is given', 'is not given'];

export const OPERATOR_WORDS: Record<ConditionOperator, string> = {
  is: wording.is,
  'is not': wording.isNot,
  'at least': wording.atLeast,
  'at most': wording.atMost,
  'is given': wording.isGiven,
  'is not given': wording.isNotGiven,
};

/** The condition of a question as one row; nothing where it has none, or says more than one row. */
export const rowOf = (when: string | undefined, earlier: readonly FormQuestionBody[]): ConditionRow | undefined => {
  const rows = when === undefined ? undefined : conditionRows(when, (earlier as FormQuestion[]).map(asField));
  return rows?.length === 1 ? rows[0] : undefined;
};

/** A row as a condition; a row without a value yet says nothing. */
export const whenOf = (row: ConditionRow): string | undefined => conditionText([row]) || undefined;
