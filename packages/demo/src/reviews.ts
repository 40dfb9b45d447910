import { addDays } from '@kanonos/core';
import { reviews } from '@kanonos/server';
import { type Context, DEMO_PASSWORD, openAll } from './context.ts';

/** Lays periodic reviews on the line of time: one confirmed last winter, one postponed, one that asks for a change. */
export const planReviews = (c: Context): void => {
  c.add(c.at(320, 240), async () => {
    const who = 'otto.brandvik';
    await openAll(c, 'THR-PRO-0113', who);
    const viewer = await c.as(who);
    const { signing, due } = await reviews.reviewOf(c.app, viewer, 'THR-PRO-0113');
    await reviews.confirmReview(c.app, viewer, 'THR-PRO-0113', {
      seen: '*',
      due,
      comment: 'Read with the crews of both stations; nothing has changed.',
      name: who,
      password: DEMO_PASSWORD,
      digest: signing.digest,
    });
  });
  c.add(c.at(8, 245), async () => {
    const viewer = await c.as('petra.lindqvist');
    const { due } = await reviews.reviewOf(c.app, viewer, 'THR-FRM-0011');
    await reviews.postponeReview(c.app, viewer, 'THR-FRM-0011', {
      seen: '*',
      due,
      to: addDays(due, 40),
      reason: 'The winter opening comes first.',
    });
  });
  c.add(c.at(2, 250), async () => {
    const viewer = await c.as('lin.sato');
    const { due } = await reviews.reviewOf(c.app, viewer, 'THR-SPC-0037');
    await reviews.answerReview(c.app, viewer, 'THR-SPC-0037', {
      seen: '*',
      due,
      outcome: 'minor change',
      comment: 'The standard that section 2 names has a new edition.',
    });
  });
};
