// npm run bench: ours and the bare part interleaved in one run, at three sizes; prints a table and writes bench/RESULTS.md.
import { createHash, hash, randomBytes } from 'node:crypto';
import { createReadStream, createWriteStream, rmSync, writeFileSync } from 'node:fs';
import { cpus, tmpdir, totalmem } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { chainEvents, createVerifier } from '@kanonos/core';
import { facetsOf, find, registerPage } from '../packages/server/src/features/find/service.ts';
import { documentPage } from '../packages/server/src/features/page/service.ts';
import { connect, type Db, rows } from '../packages/server/src/platform/db/connect.ts';
import { sha256 } from '../packages/server/src/platform/trail/append.ts';
import { openHouse, type TestHouse } from '../packages/server/src/tests/house.ts';
import { makeScaleSet, scaleOf } from './scale.ts';

const sizes = (process.env.BENCH_SIZES ?? '2000,20000,200000').split(',').map(Number);
const ROUNDS = Number(process.env.BENCH_ROUNDS ?? 30);

const quantile = (values: number[], q: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * q))] ?? 0;
type Line = { what: string; size: number; ours: number; p95: number; bare: number; budget: string; unit: string };
const lines: Line[] = [];

/** Times ours and the bare part in turn (A, B, A, B …), after a warm-up, and keeps median and p95. */
const pair = async (
  what: string,
  size: number,
  budget: string,
  ours: (i: number) => Promise<unknown>,
  bare: (i: number) => Promise<unknown>,
  rounds = ROUNDS,
) => {
  const [a, b]: [number[], number[]] = [[], []];
  for (let i = 0; i < 3; i++) {
    await ours(i);
    await bare(i);
  }
  for (let i = 0; i < rounds; i++) {
    let began = performance.now();
    await ours(i);
    a.push(performance.now() - began);
    began = performance.now();
    await bare(i);
    b.push(performance.now() - began);
  }
  const line = {
    what,
    size,
    ours: quantile(a, 0.5),
    p95: quantile(a, 0.95),
    bare: quantile(b, 0.5),
    budget,
    unit: 'ms',
  };
  lines.push(line);
  print(line);
};

const rate = (what: string, size: number, ours: number, bare: number, budget: string, unit: string) => {
  const line = { what, size, ours, p95: 0, bare, budget, unit };
  lines.push(line);
  print(line);
};

const show = (n: number) => (n >= 100 ? n.toFixed(0) : n.toFixed(1));
const print = (l: Line) =>
  process.stdout.write(
    `${String(l.size).padStart(7)}  ${l.what.padEnd(58)} ours ${show(l.ours).padStart(7)}${l.p95 ? `  p95 ${show(l.p95).padStart(6)}` : ''}  bare ${show(l.bare).padStart(7)} ${l.unit}  ratio ${(l.ours / (l.bare || 1)).toFixed(2)}  (${l.budget})\n`,
  );

const reading = async (house: TestHouse, size: number) => {
  const { app } = house;
  const [controller, reader] = [await house.as('controller'), await house.as('reader')];
  const base = {
    lens: 'newest' as const,
    q: '',
    reach: 'everywhere' as const,
    sort: 'number' as const,
    order: 'asc' as const,
    limit: 50,
  };
  const areas = (
    await rows<{ id: string }>(
      app.db,
      `select id from folders where parent_id is null and name like 'Scale %' order by name limit 20`,
    )
  ).map((f) => f.id);
  const department = house.units.get('ops') ?? '';
  const narrowed = { ...base, department, state: 'in force', area: areas.join('~') };
  const bareList = () =>
    rows(
      app.db,
      `select d.id, d.number, d.newest_title from documents d where d.department_id = :department and d.newest_state = 'in force' and d.folder_id in (select id from folders where area_id = any(:areas::uuid[])) and d.removed_at is null order by d.number limit 50`,
      { department, areas },
    );
  await pair(
    'register page of 50: department, state, 20 areas',
    size,
    'p95 ≤ 15 ms',
    () => registerPage(app, controller, narrowed),
    bareList,
  );
  await pair(
    'the same by 16 clients at once',
    size,
    'p95 ≤ 80 ms',
    () => Promise.all(Array.from({ length: 16 }, () => registerPage(app, controller, narrowed))),
    () => Promise.all(Array.from({ length: 16 }, bareList)),
    Math.min(ROUNDS, 12),
  );
  await pair(
    'register page by number, reader',
    size,
    'p95 ≤ 30 ms',
    () => registerPage(app, reader, base),
    () =>
      rows(
        app.db,
        'select id, number, public_title from documents where removed_at is null and public_state is not null order by number limit 50',
      ),
  );
  await pair(
    'facets, narrowed',
    size,
    'p95 ≤ 15 ms',
    () => facetsOf(app, controller, narrowed),
    () =>
      rows(
        app.db,
        `select newest_state, count(*) from documents d where d.department_id = :department and d.newest_state = 'in force' and d.folder_id in (select id from folders where area_id = any(:areas::uuid[])) group by 1`,
        { department, areas },
      ),
    12,
  );
  await pair(
    'facets, unfiltered',
    size,
    '≤ 150 ms',
    () => facetsOf(app, controller, base),
    () =>
      rows(
        app.db,
        'select newest_state, folder_id, type_id, count(*) from documents where removed_at is null group by grouping sets ((newest_state), (folder_id), (type_id), ())',
      ),
    8,
  );
  const numberAt = (i: number) => `SCL-${String(1 + ((i * 7919) % size)).padStart(7, '0')}`;
  await pair(
    'document page, all panels',
    size,
    '≤ 3 × its bare queries',
    (i) => documentPage(app, controller, numberAt(i), {}),
    async (i) => {
      const [d] = await rows<{ id: string; newest_revision_id: string }>(
        app.db,
        'select * from documents where number = :number',
        { number: numberAt(i) },
      );
      await rows(app.db, 'select * from revisions where document_id = :id', { id: d?.id });
      await rows(app.db, 'select * from periods where document_id = :id', { id: d?.id });
      await rows(app.db, 'select * from versions where revision_id = :id', { id: d?.newest_revision_id });
      await rows(app.db, 'select * from checkouts where document_id = :id and ended_at is null', { id: d?.id });
      await rows(app.db, 'select * from runs where revision_id = :id', { id: d?.newest_revision_id });
      await rows(app.db, 'select count(*) from comments where document_id = :id', { id: d?.id });
      await rows(app.db, 'select count(*) from reading_assignments where document_id = :id', { id: d?.id });
    },
  );
  await pair(
    'find: a rare word',
    size,
    '≤ 80 ms',
    (i) => find(app, reader, `code${1 + ((i * 7919) % size)} `, 20),
    (i) =>
      rows(app.db, `select sha256 from texts where words @@ to_tsquery('english', :w) limit 20`, {
        w: `code${1 + ((i * 7919) % size)}`,
      }),
  );
  await pair(
    'find: two common words',
    size,
    '≤ 250 ms',
    () => find(app, reader, 'rope brake ', 20),
    () =>
      rows(
        app.db,
        `select sha256, ts_rank_cd(words, q) from (select sha256, words, to_tsquery('english', 'rope & brake') q from texts where words @@ to_tsquery('english', 'rope & brake') limit 2000) x order by 2 desc limit 20`,
      ),
    8,
  );
  await pair(
    'find: a number in a usual form',
    size,
    '≤ 10 ms',
    (i) => find(app, reader, numberAt(i), 20),
    (i) => rows(app.db, 'select id from documents where number = :number', { number: numberAt(i) }),
  );
  await pair(
    'in force on a past day, page of 50',
    size,
    'p95 ≤ 20 ms',
    () => registerPage(app, reader, { ...base, lens: 'in force', on: '2025-06-01' }),
    () =>
      rows(
        app.db,
        `select d.id, p.label from documents d join lateral (select label from periods p where p.document_id = d.id and p.from_at < '2025-06-02' and (p.to_at is null or p.to_at >= '2025-06-02') order by p.from_at desc limit 1) p on true order by d.number limit 50`,
      ),
  );
};

const writing = async (house: TestHouse) => {
  const { app } = house;
  const viewer = await house.as('author');
  const upload = await house.register('author');
  const [file] = await rows<{ id: string }>(app.db, 'select id from uploads order by at desc limit 1');
  const { registerDocument } = await import('../packages/server/src/features/documents/registering.ts');
  const input = {
    typeId: house.types.get('TWO') ?? '',
    folderId: house.folders.get('1') ?? '',
    title: 'Bench',
    facts: {},
    uploadId: file?.id ?? '',
    summary: '',
    ownerId: null,
    number: null,
    label: null,
    keywords: [],
    note: '',
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
  const owner = connect(house.ownerUrl, 24);
  await owner.raw(
    'create table bench_counter (n bigint); insert into bench_counter values (0); create table bench_rows (n bigint primary key, t text)',
  );
  const bare = await timed(() =>
    owner.transaction(async (trx) => {
      const [row] = await rows<{ n: number }>(trx, 'update bench_counter set n = n + 1 returning n');
      await rows(trx, `insert into bench_rows values (:n, 'x')`, { n: row?.n });
    }),
  );
  const ours = await timed(() => registerDocument(app, viewer, input, null));
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
    app.act({ id: null, signInName: 'bench', name: 'Bench' }, async (work) =>
      work.record({ kind: 'bench', subject: {}, payload: { upload: upload.number } }),
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
};

const bytes = async (house: TestHouse) => {
  const source = join(tmpdir(), `kanonos-bench-${process.pid}`);
  await pipeline(
    Readable.from(
      (function* () {
        for (let i = 0; i < 200; i++) yield randomBytes(1 << 20);
      })(),
    ),
    createWriteStream(source),
  );
  const megabytes = 200;
  const bare = async () => {
    const began = performance.now();
    const hash = createHash('sha256');
    await pipeline(
      createReadStream(source, { highWaterMark: 1 << 20 }),
      async function* (stream) {
        for await (const chunk of stream) {
          hash.update(chunk as Buffer);
          yield chunk;
        }
      },
      createWriteStream(`${source}.copy`, { highWaterMark: 1 << 20 }),
    );
    return megabytes / ((performance.now() - began) / 1000);
  };
  const before = process.memoryUsage().rss;
  let most = before;
  const watch = setInterval(() => {
    most = Math.max(most, process.memoryUsage().rss);
  }, 20);
  const ours = async () => {
    const began = performance.now();
    const stored = await house.app.content.put(createReadStream(source, { highWaterMark: 1 << 20 }), 1 << 30);
    const speed = megabytes / ((performance.now() - began) / 1000);
    rmSync(house.app.content.pathOf(stored.sha256));
    return speed;
  };
  const [a, b] = [[] as number[], [] as number[]];
  for (let i = 0; i < 3; i++) {
    a.push(await ours());
    b.push(await bare());
  }
  clearInterval(watch);
  rate(
    `storing 200 MB with SHA-256 on the way (memory +${Math.round((most - before) / 1048576)} MB)`,
    0,
    quantile(a, 0.5),
    quantile(b, 0.5),
    '≥ 70 MB/s',
    'MB/s',
  );
  rmSync(source);
  rmSync(`${source}.copy`, { force: true });
};

const verifying = async () => {
  const n = 100_000;
  const text = chainEvents(
    Array.from({ length: n }, (_, i) => ({
      kind: 'document.registered',
      actor: 'joren.adeyemi',
      subject: { document: { id: '018876d0-0000-7000-8000-000000000118', number: 'THR-PRO-0118' } },
      payload: { i },
    })),
    undefined,
    '2026-01-01T00:00:00.000Z',
    sha256,
  );
  const exported = text.map(({ event }) => JSON.stringify(event));
  const began = performance.now();
  const verifier = createVerifier({ sha256, verifySignature: () => true });
  for (const line of exported) verifier.line(line);
  if (verifier.verdict().kind !== 'intact') throw new Error('the bench chain is broken');
  const ours = n / ((performance.now() - began) / 1000);
  const start = performance.now();
  for (const { text: t } of text) hash('sha256', t);
  rate(
    'verifying a trail of 100,000 events',
    0,
    ours,
    n / ((performance.now() - start) / 1000),
    '≥ 40,000 per s',
    'per s',
  );
};

const exponent = (what: string): string => {
  const own = lines.filter((l) => l.what === what && l.size > 0);
  const [first, last] = [own[0], own.at(-1)];
  return first && last && first.size !== last.size
    ? (Math.log(last.ours / first.ours) / Math.log(last.size / first.size)).toFixed(2)
    : '–';
};

const main = async () => {
  for (const size of sizes) {
    const house = await openHouse();
    const owner: Db = connect(house.ownerUrl, 1);
    const began = performance.now();
    await makeScaleSet(owner, scaleOf(size), {
      type: house.types.get('PRO') ?? '',
      owner: house.ids.owner ?? '',
      department: [house.units.get('ops') ?? '', house.units.get('eng') ?? ''],
    });
    process.stdout.write(
      `scale set of ${size.toLocaleString('en-GB')} documents made in ${((performance.now() - began) / 1000).toFixed(0)} s\n`,
    );
    await owner.destroy();
    await reading(house, size);
    if (size === sizes[0]) {
      await writing(house);
      await bytes(house);
      await verifying();
    }
    await house.close();
  }
  const table = lines.map(
    (l) =>
      `| ${l.size ? l.size.toLocaleString('en-GB') : '–'} | ${l.what} | ${show(l.ours)}${l.p95 ? ` (p95 ${show(l.p95)})` : ''} ${l.unit} | ${show(l.bare)} ${l.unit} | ${(l.ours / (l.bare || 1)).toFixed(2)} | ${l.budget} |`,
  );
  const growth = [...new Set(lines.filter((l) => l.size).map((l) => l.what))].map(
    (what) => `| ${what} | ${exponent(what)} |`,
  );
  writeFileSync(
    new URL('RESULTS.md', import.meta.url),
    `# Results\n\nPrinted by \`npm run bench\` on ${new Date().toISOString().slice(0, 10)}: ${cpus().length} × ${cpus()[0]?.model.trim()}, ${Math.round(totalmem() / 2 ** 30)} GiB, Node ${process.version}. Ours and the bare part run in turn; medians. The database runs without flushing to disk, as in the tests.\n\n| Documents | Work | Ours | Bare | Ratio | Budget |\n|---|---|---|---|---|---|\n${table.join('\n')}\n\n## How cost grows\n\nExponent between the smallest and the largest set: 0 grows not at all, 1 with what is stored.\n\n| Work | Exponent |\n|---|---|\n${growth.join('\n')}\n`,
  );
};

await main();
process.exit(0);
