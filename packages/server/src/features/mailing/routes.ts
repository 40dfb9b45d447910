import { api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import type { Mount } from '../../platform/http/mount.ts';
import { receivedMail } from '../../platform/mail/standIn.ts';
import { refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { usesStandIn } from './server.ts';
import * as service from './service.ts';

export const mailingRoutes = (app: App, mount: Mount<Viewer>): void => {
  const { evidence: e } = api;
  mount(e.mails, async ({ query }) => ({
    rows: await service.listMails(app, query.before),
    standIn: await usesStandIn(app),
  }));
  mount(e.mail, async ({ params }) => {
    const mail = await service.findMail(app, params.id);
    if (!mail) throw refused('not_found');
    // Received mails are shown unchanged, with live links, and therefore on a demo only.
    const { demo } = await app.organisation();
    const received = demo ? await receivedMail(app.config.dataDir, mail.id) : undefined;
    const kept = service.keptBody(mail);
    return {
      ...service.toMailRow(mail),
      html: received?.html || kept.html,
      text: received?.text || kept.text,
      redacted: received === undefined && kept.redacted,
      arrived: received !== undefined,
    };
  });
};
