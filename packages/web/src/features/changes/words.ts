import type { Affected } from '@kanonos/contract';
import type { AffectedWay as Way } from '@kanonos/core';
import { stateWords } from '../../ui/stateWords.ts';
import { wording } from './wording.ts';

const WAYS: Record<Way, (via: string) => string> = {
  picked: () => '',
  revised: () => 'revised under this note',
  cites: (via) => `cites ${via}`,
  cited: (via) => `is cited by ${via}`,
  linked: (via) => `is linked with ${via}`,
  below: (via) => `lies below ${via}`,
  above: (via) => `lies above ${via}`,
};

/** How a document came onto a note, or why it is proposed. */
export const wayInWords = (way: Way, via = 'another one'): string => WAYS[way](via);

const STANDINGS: Record<Affected['standing'], string> = {
  'not begun': 'not begun',
  'in work': 'in work',
  approved: 'approved',
  'in force': 'in force',
  'no change needed': 'no change needed',
};
export const standingInWords = (one: Affected): string =>
  one.standing === 'in work' && one.revision ? stateWords(one.revision.state) : STANDINGS[one.standing];

/** Whether everything is done for a document. */
export const isDealtWith = (one: Affected): boolean =>
  one.standing === 'in force' || one.standing === 'no change needed';

/** Where a note stands, in sentences. */
export const noteInWords = (note: {
  isAgreed: boolean;
  affected: readonly Affected[];
  tasks: readonly { state: string }[];
}) =>
  [
    note.isAgreed ? wording.agreed : wording.notAgreed,
    note.affected.length > 0 ? wording.progress(note.affected.filter(isDealtWith).length, note.affected.length) : '',
    note.tasks.length > 0 ? wording.openTasks(note.tasks.filter((task) => task.state === 'open').length) : '',
  ]
    .filter(Boolean)
    .join(' ');
