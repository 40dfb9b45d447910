// Registering and the trail, with many clients at once.
import { checkIn, checkOut } from '../packages/server/src/features/authoring/service.ts';
import { registerDocument } from '../packages/server/src/features/registration/service.ts';
import { connect, rows } from '../packages/server/src/platform/db/connect.ts';
import type { TestOrganisation } from '../packages/server/src/tests/organisation.ts';
import { quantile, rate } from './measure.ts';

export const writing = async (organisation: TestOrganisation) => {
  const { app } = organisation;
  const viewer = await organisation.as('author');
  const upload = await organisation.register('author');
  const [file] = await rows<{ id: string }>(app.db, 'select id from uploads order by at desc limit 1');
  const input = {
    typeId: organisation.types.get('TWO') ?? '',
    folderId: organisation.folders.get('1') ?? '',
    title: 'Bench',
    metadata: {},
    uploadId: file?.id ?? '',
  };
  const clients = 32;
  const each = 12;
  const timed = async (work: () => Promise<unknown>) => {
    const began = performance.now();
    await Promise.all(
      Array.from({ length: clients }, async () => {
        for (let i = 0; i < each; i++) await work();
      }),
    );
    return (clients * each) / ((performance.now() - began) / 1000);
  };
  await app.db.raw('select 1');
  const owner = connect(organisation.ownerUrl, 24);
  await owner.raw(
    'create table bench_counter (n bigint); insert into bench_counter values (0); create table bench_rows (n bigint primary key, t text)',
  );
  const bareOnce = () =>
    owner.transaction(async (trx) => {
      const [row] = await rows<{ n: number }>(trx, 'update bench_counter set n = n + 1 returning n');
      await rows(trx, `insert into bench_rows values (:n, 'x')`, { n: row?.n });
    });
  const oursOnce = () => registerDocument(app, viewer, input, null);
  // Once before, so that every connection is open and knows its statements, as in a server that has run for a minute.
  await timed(bareOnce);
  await timed(oursOnce);
  const [bares, own]: [number[], number[]] = [[], []];
  for (let i = 0; i < 3; i++) {
    bares.push(await timed(bareOnce));
    own.push(await timed(oursOnce));
  }
  const [bare, ours] = [quantile(bares, 0.5), quantile(own, 0.5)];
  const [gap] = await rows<{ last: number; n: number }>(
    app.db,
    `select c.last, (select count(*)::int from numbers where scope = c.scope) as n from counters c where scope = 'TST-TWO-#'`,
  );
  rate(
    `registering, 32 clients, one counter (gap: ${Number(gap?.last) - Number(gap?.n)})`,
    0,
    ours,
    bare,
    '≥ ⅓ of bare, ≥ 100 per s',
    'per s',
  );
  await owner.destroy();

  const trail = async () =>
    app.command({ id: null, signInName: 'bench', name: 'Bench' }, async (work) =>
      work.record({
        kind: 'version.checked-in',
        subject: {},
        payload: { version: 1, title: upload.number, note: '', files: [] },
      }),
    );
  const began = performance.now();
  await Promise.all(
    Array.from({ length: 16 }, async () => {
      for (let i = 0; i < 40; i++) await trail();
    }),
  );
  const perSecond = 640 / ((performance.now() - began) / 1000);
  const bareTrail = await (async () => {
    const start = performance.now();
    await Promise.all(
      Array.from({ length: 16 }, async () => {
        for (let i = 0; i < 40; i++)
          await app.db.transaction(async (trx) => {
            await trx.raw('select pg_advisory_xact_lock(42)');
            await trx.raw('select seq, hash from events order by seq desc limit 1');
          });
      }),
    );
    return 640 / ((performance.now() - start) / 1000);
  })();
  rate('trail append, 16 clients', 0, perSecond, bareTrail, '≥ 250 per s', 'per s');

  // A check-out and a check-in of the same content, each on a document of its own.
  const cycles = 192;
  const documents: string[] = [];
  for (let i = 0; i < cycles; i++) documents.push((await registerDocument(app, viewer, input, null)).id);
  const beganCycles = performance.now();
  await Promise.all(
    Array.from({ length: 16 }, async (_, client) => {
      for (let i = client; i < cycles; i += 16) {
        const id = documents[i] ?? '';
        await checkOut(app, viewer, id, { seen: '*', note: '', expectedBack: null });
        await checkIn(app, viewer, id, { seen: '*', uploadId: null, note: 'Bench', sameContentMeant: true });
      }
    }),
  );
  rate(
    'check-out and check-in, 16 clients (bare: registering)',
    0,
    cycles / ((performance.now() - beganCycles) / 1000),
    bare,
    '–',
    'per s',
  );
};
