import { api } from '@kanonos/contract';
import type { Viewer } from './features/access/index.ts';
import { authoringRoutes } from './features/authoring/routes.ts';
import { blueprintsRoutes } from './features/blueprints/routes.ts';
import { bulkRoutes } from './features/bulk/routes.ts';
import { changesRoutes } from './features/changes/routes.ts';
import { citationsRoutes } from './features/citations/routes.ts';
import { commentsRoutes } from './features/comments/routes.ts';
import { comparisonRoutes } from './features/comparison/routes.ts';
import { contentRoutes } from './features/content/routes.ts';
import { deskRoutes } from './features/desk/routes.ts';
import { documentsRoutes } from './features/documents/routes.ts';
import { favouritesRoutes } from './features/favourites/routes.ts';
import { filingRoutes } from './features/filing/routes.ts';
import { findRoutes } from './features/find/routes.ts';
import { formsRoutes } from './features/forms/routes.ts';
import { horizonRoutes } from './features/horizon/routes.ts';
import { importsRoutes } from './features/imports/routes.ts';
import { intakeRoutes } from './features/intake/routes.ts';
import { linksRoutes } from './features/links/routes.ts';
import { mailingRoutes } from './features/mailing/routes.ts';
import { numbersRoutes } from './features/numbers/routes.ts';
import { ordersRoutes } from './features/orders/routes.ts';
import { pageRoutes } from './features/page/routes.ts';
import { peopleRoutes } from './features/people/routes.ts';
import { readingRoutes } from './features/reading/routes.ts';
import { registrationRoutes } from './features/registration/routes.ts';
import { releaseRoutes } from './features/release/routes.ts';
import { reviewRoutes } from './features/reviews/routes.ts';
import { rightsRoutes } from './features/rights/routes.ts';
import { roundRulesRoutes } from './features/roundRules/routes.ts';
import { roundsRoutes } from './features/rounds/routes.ts';
import { rulesRoutes } from './features/rules/routes.ts';
import { sessionRoutes } from './features/session/routes.ts';
import { setupRoutes } from './features/setup/routes.ts';
import { signedOutsideRoutes } from './features/signedOutside/routes.ts';
import { systemRoutes } from './features/system/routes.ts';
import { tablesRoutes } from './features/tables/routes.ts';
import { templatesRoutes } from './features/templates/routes.ts';
import { trailRoutes } from './features/trail/routes.ts';
import { viewingRoutes } from './features/viewing/routes.ts';
import { webdavRoutes } from './features/webdav/routes.ts';
import type { App } from './platform/app.ts';
import type { Mount } from './platform/http/mount.ts';

/** The endpoints of every feature: routes parse and hand on, they decide nothing. */
const FEATURES: readonly ((app: App, mount: Mount<Viewer>) => void)[] = [
  authoringRoutes,
  blueprintsRoutes,
  bulkRoutes,
  changesRoutes,
  citationsRoutes,
  commentsRoutes,
  comparisonRoutes,
  contentRoutes,
  deskRoutes,
  documentsRoutes,
  favouritesRoutes,
  filingRoutes,
  findRoutes,
  formsRoutes,
  importsRoutes,
  intakeRoutes,
  linksRoutes,
  mailingRoutes,
  numbersRoutes,
  ordersRoutes,
  pageRoutes,
  peopleRoutes,
  readingRoutes,
  registrationRoutes,
  releaseRoutes,
  reviewRoutes,
  horizonRoutes,
  roundRulesRoutes,
  roundsRoutes,
  rightsRoutes,
  rulesRoutes,
  sessionRoutes,
  setupRoutes,
  signedOutsideRoutes,
  systemRoutes,
  tablesRoutes,
  templatesRoutes,
  trailRoutes,
  viewingRoutes,
  webdavRoutes,
];

export const mountAll = (
  app: App,
  mount: Mount<Viewer>,
  health: () => Promise<{ ok: boolean; database: string; content: string; jobs: string }>,
): void => {
  for (const mountRoutes of FEATURES) mountRoutes(app, mount);
  const { evidence: e } = api;
  mount(e.health, async ({ response }) => {
    const state = await health();
    if (!state.ok) response.status(503);
    return state;
  });
  mount(e.live, async () => ({ ok: true }));
};
