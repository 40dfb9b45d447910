import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import type { Viewer } from '../access/index.ts';
import { linesOfTable } from './lines.ts';
import * as service from './service.ts';

export const numbersRoutes = (app: App, mount: Mount<Viewer>): void => {
  mount(api.numbers.rules, () => service.numberRules(app));
  mount(api.numbers.known, ({ viewer, body }) => service.knownNumbers(app, viewer, body.folded));
  mount(api.numbers.lines, ({ viewer, body }) => linesOfTable(app, viewer, body.uploadId));
  mount(api.numbers.reservations, () => service.listReservations(app));
  mount(api.numbers.reserve, ({ viewer, body }) => service.reserve(app, viewer, body));
  mount(api.numbers.start, ({ viewer, body }) => service.startCounter(app, viewer, body));
  mount(api.numbers.endReservation, ({ viewer, params, body }) =>
    service.endReservation(app, viewer, params.id, body.reason),
  );
};
