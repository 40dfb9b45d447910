import type { NextStep } from '@kanonos/contract';
import type { Forbidden } from '@kanonos/core';
import { showDay, showInstantDay } from '../../ui/format.ts';

const people = (names: readonly string[]): string =>
  names.length <= 1 ? (names[0] ?? 'somebody') : `${names.slice(0, -1).join(', ')} or ${names.at(-1)}`;
const lower = (text: string) => text.charAt(0).toLowerCase() + text.slice(1);

/** Where a document stands, as a sentence: who, what, since when, until when, what comes then. */
export const nextSentence = (next: NextStep, zone: string): { lead: string; rest: string } => {
  const since = next.since ? ` since ${showInstantDay(next.since, zone, true)}` : '';
  const due = next.due ? ` ${next.overdue ? 'Was due' : 'Due'} ${showDay(next.due, true)}.` : '';
  switch (next.kind) {
    case 'decide':
      return {
        lead: next.mine ? 'Waiting for you' : `Waiting for ${people(next.who)}`,
        rest: `to ${lower(next.step ?? 'decide')}${since}.${due}${next.afterCommit ? ` Then: ${lower(next.afterCommit)}.` : ''}`,
      };
    case 'finish':
      return {
        lead: next.mine ? 'Waiting for you' : `Waiting for ${people(next.who)}`,
        rest: next.step ? `to reply: “${next.step}”` : `to finish the draft and submit it${since}.`,
      };
    case 'checked out':
      return {
        lead: next.mine ? 'You have it checked out' : `${people(next.who)} has it checked out`,
        rest: `${since.trim()}. Check it in to continue.`,
      };
    case 'held up':
      return {
        lead: 'The round is blocked',
        rest: `by ${next.blockers === 1 ? 'one blocker' : `${next.blockers} blockers`}; it continues when the last one is cleared.`,
      };
    case 'release':
      return { lead: 'Waiting for document control', rest: `to release it; approved${since}.` };
    case 'scheduled':
      return { lead: `Comes into force on ${showDay(next.due)}`, rest: 'automatically, at the start of that day.' };
    case 'blocked':
      return {
        lead: 'Blocked',
        rest: `since ${showDay(next.due)}: the preflight found a blocker. It comes into force when the blocker is cleared.`,
      };
    case 'withdrawal planned':
      return { lead: `Will be withdrawn on ${showDay(next.due)}`, rest: 'automatically.' };
  }
};

/** How the organisation words its states; set when somebody is signed in, for words stand in many small parts. */
let ownWords: Readonly<Record<string, string>> = {};
export const setStateWords = (words: Readonly<Record<string, string>>): void => {
  ownWords = words;
};

/** State of a revision in words. */
export const stateWords = (state: string): string => ownWords[state] ?? state.charAt(0).toUpperCase() + state.slice(1);

const FORBIDS: Record<Forbidden, string> = {
  download: 'no downloads',
  print: 'no printing',
  'share outside': 'no sharing outside the organisation',
};
/** What a level of confidentiality forbids, in words. */
export const forbidsWords = (forbids: readonly Forbidden[]): string => {
  const words = forbids.map((one) => FORBIDS[one]).join(', ');
  return words ? words.charAt(0).toUpperCase() + words.slice(1) : 'No restrictions beyond the rights';
};
