// Many documents at once: taking over legacy documents with files, changing documents in bulk, a field for all documents of a type.
import { Readable } from 'node:stream';
import { strToU8, zipSync } from 'fflate';
import { BULK_AT_ONCE } from '../packages/contract/src/bulk.ts';
import { applyBulk, tryBulk, undoBulk } from '../packages/server/src/features/bulk/service.ts';
import { takeUpload } from '../packages/server/src/features/content/uploads.ts';
import { runImport } from '../packages/server/src/features/imports/running.ts';
import {
  addFiles,
  addImport,
  importDetail,
  setMapping,
  startImport,
  tryImport,
} from '../packages/server/src/features/imports/service.ts';
import { changeType, tryType, typeDetail } from '../packages/server/src/features/rules/types.ts';
import { connect, rows } from '../packages/server/src/platform/db/connect.ts';
import { newId } from '../packages/server/src/platform/db/ids.ts';
import type { TestOrganisation } from '../packages/server/src/tests/organisation.ts';
import { rate } from './measure.ts';

const seconds = async (work: () => Promise<unknown>) => {
  const began = performance.now();
  await work();
  return (performance.now() - began) / 1000;
};

/** Lines per second of an import, its dry run beside it, against inserting as many bare rows one by one. */
const importing = async (organisation: TestOrganisation): Promise<void> => {
  const n = Number(process.env.BENCH_LINES ?? 50_000);
  const files = n / 5;
  const admin = await organisation.as('admin');
  const controller = await organisation.as('controller');
  const typeId = organisation.types.get('TWO') ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, typeId);
  await changeType(organisation.app, admin, typeId, {
    rule: { ...rule, takeOver: true, numbering: 'TST-{type}-{counter:6}' },
    reason: 'bench',
    rowVersion,
    from: null,
    fill: [],
  });
  const send = async (name: string, bytes: string | Uint8Array) =>
    (await takeUpload(organisation.app, controller, name, Readable.from([Buffer.from(bytes as Uint8Array)]))).id;
  const lines = Array.from(
    { length: n },
    (_, i) => `TST-TWO-${String(i + 1).padStart(6, '0')};Old ${i};TWO;1;valid;01.03.2015;f${i % files}.md`,
  );
  const { id } = await addImport(
    organisation.app,
    controller,
    await send('old.csv', ['Number;Title;Type;Rev;State;Valid from;File', ...lines].join('\n')),
  );
  const zip = zipSync(
    Object.fromEntries(Array.from({ length: files }, (_, i) => [`f${i}.md`, strToU8(`# file ${i}`)])),
  );
  const sent = [{ uploadId: await send('files.zip', zip), path: '' }];
  const unpacked = await seconds(() => addFiles(organisation.app, controller, id, sent));
  const detail = await importDetail(organisation.app, controller, id);
  await setMapping(organisation.app, controller, id, {
    mapping: { ...detail.mapping, folder: 'Area one', owner: 'Owner' },
    rowVersion: detail.rowVersion,
  });
  await rows(organisation.app.db, `delete from counters where scope = 'TST-TWO-#'`);
  const tried = await seconds(() => tryImport(organisation.app, controller, id));
  await startImport(organisation.app, controller, id, 'bench');
  const before = process.memoryUsage.rss();
  let most = before;
  const watch = setInterval(() => {
    most = Math.max(most, process.memoryUsage.rss());
  }, 200);
  const ran = await seconds(async () => {
    // As the job does: a stretch at a time, until nothing is left.
    while ((await runImport(organisation.app, id, 600_000)) === 'continues');
  });
  clearInterval(watch);
  const grown = Math.round((most - before) / 1048576);
  const { counts } = await importDetail(organisation.app, controller, id);
  if (counts.done !== n) throw new Error(`${counts.done} of ${n} lines were taken over`);
  const owner = connect(organisation.ownerUrl, 2);
  await owner.raw('create table bench_lines (line int primary key, cells jsonb)');
  const some = Math.min(n, 5000);
  const bare = await seconds(async () => {
    for (let i = 0; i < some; i++)
      await rows(owner, 'insert into bench_lines values (:i, :cells::jsonb)', { i, cells: JSON.stringify([lines[i]]) });
  });
  await owner.destroy();
  rate('import, files of a zip unpacked', 0, files / unpacked, some / bare, '–', 'per s');
  rate('import, lines judged (dry run)', 0, n / tried, some / bare, '–', 'per s');
  rate(
    `import, ${n.toLocaleString('en-GB')} lines with files taken over (peak +${grown} MB)`,
    0,
    n / ran,
    some / bare,
    '50,000 lines, memory flat',
    'per s',
  );
};

/** Changing 10,000 documents in bulk, with an event each, against one statement that writes as many rows. */
const bulk = async (organisation: TestOrganisation, size: number): Promise<void> => {
  const controller = await organisation.as('controller');
  const ids = (
    await rows<{ id: string }>(
      organisation.app.db,
      'select id from documents where removed_at is null order by number limit 10000',
    )
  ).map((row) => row.id);
  const change = { addKeywords: ['bench'] };
  let wanted: string[] = [];
  const tried = await seconds(async () => {
    wanted = (await tryBulk(organisation.app, controller, { ids, filter: null, change })).ids;
  });
  const id = newId();
  const changed = await seconds(async () => {
    for (let at = 0; at < wanted.length; at += BULK_AT_ONCE)
      await applyBulk(organisation.app, controller, id, {
        ids: wanted.slice(at, at + BULK_AT_ONCE),
        change,
        reason: 'bench',
      });
  });
  const undone = await seconds(async () => {
    while ((await undoBulk(organisation.app, controller, id)).left > 0);
  });
  const owner = connect(organisation.ownerUrl, 1);
  const bare = await seconds(() =>
    rows(owner, `update documents set keywords = keywords || '{bare}' where id = any(:ids::uuid[])`, { ids: wanted }),
  );
  await owner.destroy();
  const n = wanted.length;
  rate(`bulk, trial over ${n.toLocaleString('en-GB')} documents`, size, n / tried, n / bare, '–', 'per s');
  rate('bulk, changed with an event each', size, n / changed, n / bare, '–', 'per s');
  rate('bulk, undone', size, n / undone, n / bare, '–', 'per s');
};

/** A new mandatory field for all documents of a type: its effect in figures, then filled in, against one bare statement. */
const newField = async (organisation: TestOrganisation, size: number): Promise<void> => {
  const admin = await organisation.as('admin');
  const typeId = organisation.types.get('PRO') ?? '';
  const { rule, rowVersion } = await typeDetail(organisation.app, typeId);
  const field = {
    key: 'heldOn',
    label: 'Kept',
    kind: 'number' as const,
    mandatory: true,
    level: 'document' as const,
    default: { from: 'fixed' as const, value: '10' },
  };
  const wanted = { ...rule, fields: [...rule.fields, field] };
  const tried = await seconds(() => tryType(organisation.app, { id: typeId, rule: wanted }));
  const filled = await seconds(() =>
    changeType(organisation.app, admin, typeId, {
      rule: wanted,
      reason: 'bench',
      rowVersion,
      from: null,
      fill: ['heldOn'],
    }),
  );
  const owner = connect(organisation.ownerUrl, 1);
  const bare = await seconds(() =>
    rows(owner, `update documents set metadata = metadata || '{"bare": 1}' where type_id = :typeId`, { typeId }),
  );
  await owner.destroy();
  rate('a field for all documents, effect shown', size, size / tried, size / bare, '–', 'per s');
  rate('a field for all documents, filled in', size, size / filled, size / bare, '–', 'per s');
};

export const many = { importing, bulk, newField };
