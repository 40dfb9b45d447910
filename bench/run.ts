// npm run bench: ours and the bare part interleaved in one run, at three sizes; prints a table and writes bench/RESULTS.md.
import { writeFileSync } from 'node:fs';
import { cpus, totalmem } from 'node:os';
import { connect, type Db } from '../packages/server/src/platform/db/connect.ts';
import { openOrganisation } from '../packages/server/src/tests/organisation.ts';
import { bytes, verifying } from './bytes.ts';
import { desk } from './desk.ts';
import { inTheBrowser } from './firstScreen.ts';
import { many } from './many.ts';
import { lines, show } from './measure.ts';
import { reading } from './reading.ts';
import { requests } from './requests.ts';
import { rounds } from './rounds.ts';
import { rules } from './rules.ts';
import { makeScaleSet, scaleOf } from './scale.ts';
import { texts } from './texts.ts';
import { writing } from './writing.ts';

const sizes = (process.env.BENCH_SIZES ?? '2000,20000,200000').split(',').map(Number);

const exponent = (what: string): string => {
  const own = lines.filter((l) => l.what === what && l.size > 0);
  const [first, last] = [own[0], own.at(-1)];
  return first && last && first.size !== last.size
    ? (Math.log(last.ours / first.ours) / Math.log(last.size / first.size)).toFixed(2)
    : '–';
};

/** Only what is named, as in `BENCH_ONLY=importing`, where one thing is being worked on. */
const only = process.env.BENCH_ONLY as keyof typeof many | 'texts' | 'desk' | 'browser' | 'rounds' | undefined;

/** An organisation with a register of that size. */
const openScaled = async (size: number) => {
  const organisation = await openOrganisation();
  const owner: Db = connect(organisation.ownerUrl, 1);
  const began = performance.now();
  await makeScaleSet(owner, scaleOf(size), {
    type: organisation.types.get('PRO') ?? '',
    owner: organisation.ids.owner ?? '',
    department: [organisation.units.get('ops') ?? '', organisation.units.get('eng') ?? ''],
  });
  process.stdout.write(
    `scale set of ${size.toLocaleString('en-GB')} documents made in ${((performance.now() - began) / 1000).toFixed(0)} s\n`,
  );
  await owner.destroy();
  return organisation;
};

const main = async () => {
  if (only === 'texts') return texts();
  if (only) {
    const size = sizes[0] ?? 2000;
    const scaled = only === 'browser' || only === 'rounds';
    const organisation = scaled ? await openScaled(size) : await openOrganisation();
    if (only === 'browser') await inTheBrowser(organisation, size);
    else if (only === 'rounds') await rounds(organisation);
    else if (only === 'desk') await desk(organisation);
    else await many[only](organisation, size);
    await organisation.close();
    process.stdout.write(`${lines.map((l) => `${l.what}: ${show(l.ours)} ${l.unit}`).join('\n')}\n`);
    return;
  }
  for (const size of sizes) {
    const organisation = await openScaled(size);
    await reading(organisation, size);
    await requests(organisation, size);
    await inTheBrowser(organisation, size);
    if (size === sizes[0]) {
      await writing(organisation);
      await bytes(organisation);
      await verifying();
      rules();
      await texts();
      await many.importing(organisation);
      await desk(organisation);
    }
    if (size === sizes.at(-1)) await rounds(organisation);
    if (size >= 20_000) await many.bulk(organisation, size);
    await many.newField(organisation, size);
    await organisation.close();
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
