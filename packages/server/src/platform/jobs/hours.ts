import type { App } from '../app.ts';
import { JOB_KINDS, QUEUES } from './queues.ts';

/**
 * The hours at which the organisation's regular work comes: kept in the zone of the organisation, also when that is changed while the workers run.
 *
 * @returns `keep` reschedules when the zone has changed, and gives the present zone
 */
export const createHours = (app: Pick<App, 'organisation' | 'jobs'>): { keep: () => Promise<string> } => {
  let kept = '';
  return {
    keep: async () => {
      const { zone } = await app.organisation();
      if (zone !== kept) {
        for (const kind of JOB_KINDS) {
          const { cron } = QUEUES[kind];
          if (cron) await app.jobs.schedule(kind, cron, zone);
        }
        kept = zone;
      }
      return zone;
    },
  };
};
