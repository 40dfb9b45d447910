// The same page of the register through the whole server: session, rights, contract, JSON.
import type { AddressInfo } from 'node:net';
import express from 'express';
import { createHttp } from '../packages/server/src/http.ts';
import { rows } from '../packages/server/src/platform/db/connect.ts';
import { PASSWORD, type TestOrganisation } from '../packages/server/src/tests/organisation.ts';
import { rate } from './measure.ts';

const CLIENTS = 16;
const EACH = 40;

export const requests = async (organisation: TestOrganisation, size: number) => {
  const app = { ...organisation.app, config: { ...organisation.app.config, checkAnswers: false } };
  const server = createHttp(app).listen(0, '127.0.0.1');
  const plain = express();
  plain.get('/', async (_request, response) => {
    response.json(
      await rows(
        app.db,
        `select d.id, d.number, d.newest_title, d.newest_state, d.newest_label, d.changed_at, d.review_on, t.name as type, f.name as folder, o.name as owner
         from documents d join types t on t.id = d.type_id join folders f on f.id = d.folder_id join people o on o.id = d.owner_id
         where d.removed_at is null order by d.number limit 50`,
      ),
    );
  });
  const bareServer = plain.listen(0, '127.0.0.1');
  await Promise.all([server, bareServer].map((s) => new Promise((resolve) => s.once('listening', resolve))));
  const at = (s: typeof server) => `http://127.0.0.1:${(s.address() as AddressInfo).port}`;
  const signedIn = await fetch(`${at(server)}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'reader', password: PASSWORD }),
  });
  const cookie = signedIn.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ');
  const perSecond = async (url: string) => {
    const began = performance.now();
    await Promise.all(
      Array.from({ length: CLIENTS }, async () => {
        for (let i = 0; i < EACH; i++) {
          const answer = await fetch(url, { headers: { cookie } });
          if (!answer.ok) throw new Error(`${url}: ${answer.status} ${await answer.text()}`);
          await answer.arrayBuffer();
        }
      }),
    );
    return (CLIENTS * EACH) / ((performance.now() - began) / 1000);
  };
  const [ours, bare] = [`${at(server)}/api/register?revisionScope=newest&limit=50`, `${at(bareServer)}/`];
  await perSecond(ours);
  await perSecond(bare);
  const [a, b]: [number[], number[]] = [[], []];
  for (let i = 0; i < 3; i++) {
    a.push(await perSecond(ours));
    b.push(await perSecond(bare));
  }
  const middle = (values: number[]) => values.sort((x, y) => x - y)[1] ?? 0;
  rate(
    `register page over HTTP, ${CLIENTS} clients in this process`,
    size,
    middle(a),
    middle(b),
    '≥ 250 per s',
    'per s',
  );
  server.close();
  bareServer.close();
};
