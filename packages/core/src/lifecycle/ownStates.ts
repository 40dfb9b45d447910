import type { RevisionState } from './states.ts';

/** The states within which an organisation may have states of its own: while something is worked on, not once it is decided. */
export const OWN_STATE_WITHIN = ['draft', 'in review'] as const;
export type OwnStateWithin = (typeof OWN_STATE_WITHIN)[number];

/**
 * A state of the organisation's own, such as *waiting for test*: it says more about a draft or a review and changes nothing about what
 * may be done. Without units, whoever may author sets it.
 */
export type OwnState = { name: string; within: OwnStateWithin; unitIds: readonly string[] };

/** The own states that a person may give a revision in this state, by name. */
export const ownStatesFor = (
  states: readonly OwnState[],
  { state, mayAuthor, unitIds }: { state: RevisionState | undefined; mayAuthor: boolean; unitIds: ReadonlySet<string> },
): string[] =>
  states
    .filter(({ within }) => within === state)
    .filter((own) => (own.unitIds.length === 0 ? mayAuthor : own.unitIds.some((id) => unitIds.has(id))))
    .map(({ name }) => name);

/** The names that stand in a list more than once within the same state, whatever their letters' case. */
export const repeatedOwnStates = (states: readonly Pick<OwnState, 'name' | 'within'>[]): string[] => {
  const keyOf = ({ name, within }: Pick<OwnState, 'name' | 'within'>) => `${within} ${name.trim().toLowerCase()}`;
  const keys = states.map(keyOf);
  return states.filter((one, at) => keys.indexOf(keyOf(one)) < at).map(({ name }) => name);
};
