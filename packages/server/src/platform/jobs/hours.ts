import type { App } from '../app.ts';

/**
 * The hours at which the organisation's regular work comes: kept in the zone of the organisation, also when that is changed while the workers run.
 *
 * @returns `keep` schedules anew where the zone has changed, and gives the zone that holds now
 */
export const createHours = (app: Pick<App, 'organisation' | 'jobs'>): { keep: () => Promise<string> } => {
  let kept = '';
  return {
    keep: async () => {
      const { zone } = await app.organisation();
      if (zone !== kept) {
        await app.jobs.schedule('due.work', '* * * * *', zone);
        await app.jobs.schedule('mail.summaries', '0 6 * * *', zone);
        await app.jobs.schedule('trail.head', '*/15 * * * *', zone);
        await app.jobs.schedule('day.end', '1 0 * * *', zone);
        kept = zone;
      }
      return zone;
    },
  };
};
