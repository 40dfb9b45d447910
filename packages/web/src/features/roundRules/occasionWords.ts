import type { RoundOccasion } from '@kanonos/contract';
import { wording } from './wording.ts';

/** An occasion in words, with the label of its field. */
export const occasionWords = (occasion: RoundOccasion, field: string | null): string => {
  if (occasion.on === 'day reached') return wording.onDay(field ?? occasion.field, occasion.days);
  if (occasion.on === 'field changed') return wording.whenFieldChanges(field ?? occasion.field);
  return wording.occasions[occasion.on];
};
