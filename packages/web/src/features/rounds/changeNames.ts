import type { RoundChange } from '@kanonos/core';
import { wording } from './wording.ts';

/** How the changes to a round are named on buttons and in titles. */
export const CHANGE_NAMES: Record<RoundChange, string> = {
  remind: wording.remind,
  reassign: wording.reassign,
  'take over': wording.takeOver,
  'add person': wording.addPerson,
  'add step': wording.addStep,
  extend: wording.extend,
  'skip step': wording.skipStep,
  cancel: wording.cancelRounds,
};
