import { z } from 'zod';
import { Id, text } from './common.ts';

/** A step made on the spot. */
export const AdHocStepBody = z.strictObject({
  name: text(80, 1),
  kind: z.enum(['review', 'acknowledge', 'task', 'approval']),
  meaning: text(120).optional(),
  people: z.array(Id).min(1, 'at least one person').max(50),
  isAnyOne: z.boolean().default(false),
  /** Runs at the same time as the step before it. */
  beside: z.boolean().default(false),
});
export type AdHocStepBody = z.infer<typeof AdHocStepBody>;
