import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { done, type Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import { liftHold, putOnHold } from './hold.ts';
import { preflightFor } from './preflight.ts';
import { abandon, revise } from './revise.ts';
import { moveDay, release, reopen } from './service.ts';
import { releaseSet, reviseSet } from './sets.ts';
import { cancelWithdrawal, reinstate, reinstatementFor, withdraw } from './withdraw.ts';

export const releaseRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { documents: d } = api;
  mount(d.preflight, ({ viewer, params }) => preflightFor(app, viewer, params.document));
  mount(d.release, ({ viewer, params, body }) => release(app, viewer, params.document, body));
  mount(d.moveDay, ({ viewer, params, body }) => moveDay(app, viewer, params.document, body));
  mount(d.reopen, ({ viewer, params, body }) => done(reopen(app, viewer, params.document, body)));
  mount(d.revise, ({ viewer, params, body }) => revise(app, viewer, params.document, body));
  mount(d.abandon, ({ viewer, params, body }) =>
    done(abandon(app, viewer, params.document, { reason: body.reason, seen: '*' })),
  );
  mount(d.withdraw, ({ viewer, params, body }) => done(withdraw(app, viewer, params.document, body)));
  mount(d.putOnHold, ({ viewer, params, body }) => done(putOnHold(app, viewer, params.document, body)));
  mount(d.liftHold, ({ viewer, params, body }) => done(liftHold(app, viewer, params.document, body)));
  mount(d.cancelWithdrawal, ({ viewer, params, body }) =>
    done(cancelWithdrawal(app, viewer, params.document, { reason: body.reason, seen: '*' })),
  );
  mount(api.changes.reviseSet, ({ viewer, body }) => reviseSet(app, viewer, body));
  mount(api.changes.releaseSet, ({ viewer, body }) => releaseSet(app, viewer, body));
  mount(d.reinstatement, ({ viewer, params }) => reinstatementFor(app, viewer, params.document));
  mount(d.reinstate, ({ viewer, params, body }) => done(reinstate(app, viewer, params.document, body)));
};
