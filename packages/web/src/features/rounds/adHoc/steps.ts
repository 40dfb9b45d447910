import type { AdHocStepBody } from '@kanonos/contract';
import { wording } from './wording.ts';

type Person = { id: string; name: string };
/** A step as it is entered; `key` tells steps apart while they are added and removed. */
export type EnteredStep = {
  key: number;
  kind: AdHocStepBody['kind'];
  name: string;
  meaning: string;
  people: Person[];
  isAnyOne: boolean;
  beside: boolean;
};

export const firstStep = (key: number): EnteredStep => ({
  key,
  kind: 'review',
  name: '',
  meaning: '',
  people: [],
  isAnyOne: false,
  beside: false,
});

/** The steps as they are sent: one without a name is called by what is asked. */
export const toSteps = (steps: readonly EnteredStep[]): AdHocStepBody[] =>
  steps.map(({ kind, name, meaning, people, isAnyOne, beside }, index) => ({
    kind,
    name: name.trim() || wording.usual[kind],
    ...(kind === 'approval' && meaning ? { meaning } : {}),
    people: people.map(({ id }) => id),
    isAnyOne: isAnyOne && people.length > 1,
    beside: beside && index > 0,
  }));

/** Whether something can be sent: every step asks somebody, and a signature says what it means. */
export const isComplete = (steps: readonly EnteredStep[]): boolean =>
  steps.length > 0 && steps.every(({ kind, meaning, people }) => people.length > 0 && (kind !== 'approval' || meaning));
