import { spawn, spawnSync } from 'node:child_process';
import { copyFile, mkdir, mkdtemp, open, readdir, rm, stat, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** The result for each file of a batch: the path of the output, or the reason for none. */
export type Converted = { made: string } | { why: string };
/** What files are made into: pages, or a workbook. */
export type Target = 'pdf' | 'xlsx';
const ENDS: Record<Target, string> = { pdf: '%%EOF', xlsx: 'PK\x05\x06' };

const PLACE = 'kanonos-pages-';
const STALE_MS = 3_600_000;
const SECONDS = 90;
const MEMORY_KB = 6 * 1024 * 1024;

/** How a run of the office program ended: by itself, with an error or from outside, or by its limit of time. */
type Ended = 'well' | 'broken' | 'hung';

const WHY: Record<Ended, (seconds: number) => string> = {
  well: () => 'LibreOffice could not read it: the file is damaged, password-protected or in another format.',
  broken: () => 'LibreOffice failed on it repeatedly; it may need more than the limit of 6 GB of memory.',
  hung: (seconds) => `LibreOffice did not finish within the limit of ${seconds} seconds.`,
};

/**
 * The office program is configured to run no macro, follow no link and ask nobody. What a file would fetch from elsewhere is
 * left where it is.
 */
const SETTINGS = `<?xml version="1.0" encoding="UTF-8"?>
<oor:items xmlns:oor="http://openoffice.org/2001/registry">
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="DisableMacrosExecution"><value>true</value></prop></item>
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="MacroSecurityLevel"><value>3</value></prop></item>
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="BlockUntrustedRefererLinks"><value>true</value></prop></item>
<item oor:path="/org.openoffice.Office.Common/Security/Scripting"><prop oor:name="DisableActiveContent"><value>true</value></prop></item>
<item oor:path="/org.openoffice.Office.Writer/Content/Update"><prop oor:name="Link"><value>0</value></prop></item>
<item oor:path="/org.openoffice.Office.Calc/Content/Update"><prop oor:name="Link"><value>2</value></prop></item>
</oor:items>
`;

/** Where the system can, the office program runs without any network; elsewhere its requests end at a closed door. */
const hasNoNetwork = (() => {
  let known: boolean | undefined;
  return () => {
    known ??= spawnSync('unshare', ['-rn', 'true']).status === 0;
    return known;
  };
})();

/** Runs a program in a group of its own, so that all that it started ends with it; answers whether it succeeded, failed, or took too long. */
const run = (command: string, args: string[], cwd: string, seconds: number): Promise<Ended> =>
  new Promise((resolve) => {
    const closed = 'http://127.0.0.1:9';
    const child = spawn(command, args, {
      cwd,
      detached: true,
      stdio: 'ignore',
      env: {
        PATH: process.env.PATH,
        HOME: cwd,
        LANG: 'C.UTF-8',
        http_proxy: closed,
        https_proxy: closed,
        SAL_USE_VCLPLUGIN: 'svp',
      },
    });
    const end = () => {
      try {
        if (child.pid) process.kill(-child.pid, 'SIGKILL');
      } catch {
        // It has ended already.
      }
    };
    let hung = false;
    const timer = setTimeout(() => {
      hung = true;
      end();
    }, seconds * 1000);
    child.on('error', () => resolve('broken'));
    child.on('exit', (code) => {
      clearTimeout(timer);
      end();
      resolve(hung ? 'hung' : code === 0 ? 'well' : 'broken');
    });
  });

/** Whether a file is there to its end: a program that was killed may have left the beginning of one. */
const isWhole = async (path: string, target: Target): Promise<boolean> => {
  const file = await open(path).catch(() => undefined);
  if (!file) return false;
  try {
    const { size } = await file.stat();
    const end = Buffer.alloc(Math.min(size, 1024));
    await file.read(end, 0, end.length, size - end.length);
    return end.includes(ENDS[target], 0, 'latin1');
  } finally {
    await file.close();
  }
};

/**
 * Makes pages or workbooks of office files, all of a batch in one run of LibreOffice: starting it takes as long as converting several. What
 * is not there afterwards is tried once more alone, and again where the program broke, so that one bad file, or a program that was
 * killed, spoils no other. Within limits of time and memory.
 *
 * @param files where each file is, with the ending by which its format is known
 */
export const convertOffice = async (
  files: readonly { path: string; ending: string }[],
  target: Target,
  { seconds = SECONDS, program = 'soffice' }: { seconds?: number; program?: string } = {},
): Promise<{ results: Converted[]; done: () => Promise<void> }> => {
  const dir = await mkdtemp(join(tmpdir(), PLACE));
  const done = () => rm(dir, { recursive: true, force: true });
  try {
    await mkdir(join(dir, 'out'));
    const names = files.map((file, i) => `${i}.${file.ending.replace(/[^a-z0-9]/g, '')}`);
    for (const [i, file] of files.entries()) await copyFile(file.path, join(dir, names[i] ?? ''));
    const convert = async (which: readonly string[]) => {
      // Each run has a profile of its own: one that was killed leaves a profile half written, and while it dies the next run on the
      // same profile would hand its files to it and end, well, with nothing made.
      const profile = await mkdtemp(join(dir, 'profile-'));
      await mkdir(join(profile, 'user'));
      await writeFile(join(profile, 'user', 'registrymodifications.xcu'), SETTINGS);
      const office = [
        `-env:UserInstallation=file://${profile}`,
        '--headless',
        '--norestore',
        '--nolockcheck',
        '--convert-to',
        target,
        '--outdir',
        join(dir, 'out'),
        ...which,
      ];
      // The second time limit applies also when the server that started it has died.
      const limited = `ulimit -v ${MEMORY_KB}; exec timeout -s KILL ${seconds + 10} ${hasNoNetwork() ? 'unshare -rn ' : ''}"$0" "$@"`;
      return run('sh', ['-c', limited, program, ...office], dir, seconds);
    };
    const madeOf = (name: string) => join(dir, 'out', `${name.split('.')[0]}.${target}`);
    const first = await convert(names);
    const results: Converted[] = [];
    for (const name of names) {
      let ended = first;
      for (
        let left = names.length > 1 || first === 'broken' ? 2 : 0;
        left > 0 && !(await isWhole(madeOf(name), target));
        left--
      ) {
        ended = await convert([name]);
        if (ended !== 'broken') break;
      }
      results.push((await isWhole(madeOf(name), target)) ? { made: madeOf(name) } : { why: WHY[ended](seconds) });
    }
    return { results, done };
  } catch (error) {
    await done();
    throw error;
  }
};

/** Removes the leftovers of servers that were killed during a conversion. */
export const sweepConversions = async (): Promise<void> => {
  for (const name of await readdir(tmpdir()))
    if (name.startsWith(PLACE)) {
      const path = join(tmpdir(), name);
      const info = await stat(path).catch(() => undefined);
      if (info && Date.now() - info.mtimeMs > STALE_MS) await rm(path, { recursive: true, force: true });
    }
};
