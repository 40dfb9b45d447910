import { joinLifecycle } from './features/documents/index.ts';
import { applyDue, findDue } from './features/release/index.ts';
import { routeSituationOf } from './features/rounds/index.ts';
import { type App, createApp } from './platform/app.ts';

/** Puts the application together: the platform, and what documents need of the features that build on them. */
export const createKanonos = (parts: Parameters<typeof createApp>[0]): App => {
  joinLifecycle({
    isDue: async (db, documentId, day) => (await findDue(db, documentId, day)) !== undefined,
    applyDue,
    routeSituation: routeSituationOf,
  });
  return createApp(parts);
};
