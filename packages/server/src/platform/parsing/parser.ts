import { type ChildProcess, fork } from 'node:child_process';
import { existsSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { RefusalError } from '../refused.ts';
import type { ArgumentsOf, ResultOf, TaskName } from './tasks.ts';

/** A parsing process was ended because it went beyond a limit: whatever it was given is not to be given to another one unasked. */
export class ParsingEnded extends Error {
  constructor(message: string) {
    super(message);
    this.name = 'ParsingEnded';
  }
}

export type Limits = {
  /** Seconds from the moment at which the task begins. */
  seconds: number;
  /** Megabytes of the whole process, as the system counts them. */
  megabytes?: number;
};

const MEGABYTES = 1024;
const HEAP_MEGABYTES = 640;
const LOOK_MS = 100;
const IDLE_MS = 60_000;

type Answer = { id: number; value?: unknown; error?: { message: string; refusals?: RefusalError['refusals'] } };
type Waiting = {
  task: TaskName;
  args: unknown[];
  limits: Limits;
  resolve: (value: never) => void;
  reject: (error: Error) => void;
};

/** Beside the server's own program when it is built; else the source, run by tsx. */
const programOf = (): { path: string; execArgv: string[] } => {
  const built = ['.', '..'].map((up) => join(import.meta.dirname, up, 'parser.js')).find((path) => existsSync(path));
  return built
    ? { path: built, execArgv: [] }
    : { path: join(import.meta.dirname, 'program.ts'), execArgv: ['--import', 'tsx'] };
};

/** Resident megabytes of a process (proc(5), statm). */
const megabytesOf = async (pid: number): Promise<number> => {
  const text = await readFile(`/proc/${pid}/statm`, 'utf8').catch(() => '');
  return (Number(text.split(' ')[1] ?? 0) * 4096) / 1_048_576;
};

/** A process that parses, with none of the server's secrets and a limit on its memory. */
const forkParser = (): ChildProcess => {
  const { path, execArgv } = programOf();
  return fork(path, {
    execArgv: [...execArgv, `--max-old-space-size=${HEAP_MEGABYTES}`],
    serialization: 'advanced',
    stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
    // Nothing of the server's secrets is any business of what reads a stranger's file.
    env: { PATH: process.env.PATH, HOME: process.env.HOME, LANG: 'C.UTF-8', TMPDIR: process.env.TMPDIR },
  });
};

/**
 * Gives one task to an idle process and settles its promise; `rest` gets the process back when it has answered. A process that
 * exceeds a limit is killed, and its task is rejected with the reason.
 */
const work = (
  child: ChildProcess,
  id: number,
  { task, args, limits, resolve, reject }: Waiting,
  rest: (child: ChildProcess) => void,
): void => {
  child.ref();
  child.channel?.ref();
  const { seconds, megabytes = MEGABYTES } = limits;
  let ended: string | undefined;
  const end = (why: string) => {
    ended ??= why;
    child.kill('SIGKILL');
  };
  const overdue = setTimeout(() => end(`It took longer than ${seconds} seconds.`), seconds * 1000);
  const look = setInterval(async () => {
    if (child.pid && (await megabytesOf(child.pid)) > megabytes) end(`It took more than ${megabytes} MB of memory.`);
  }, LOOK_MS);
  const stop = () => {
    clearTimeout(overdue);
    clearInterval(look);
    child.off('message', onAnswer);
    child.off('exit', onExit);
  };
  const onAnswer = (answer: Answer) => {
    if (answer.id !== id) return;
    stop();
    const { error, value } = answer;
    if (error) reject(error.refusals ? new RefusalError(error.refusals) : new Error(error.message));
    else resolve(value as never);
    rest(child);
  };
  const onExit = (_code: number | null, signal: string | null) => {
    stop();
    // Its heap limit ends the process by itself.
    reject(new ParsingEnded(ended ?? `Reading it failed (${signal ?? 'out of memory'}).`));
  };
  child.on('message', onAnswer);
  child.once('exit', onExit);
  child.send({ id, task, args }, (error) => {
    if (error && child.exitCode === null && child.signalCode === null) end('It could not be passed on.');
  });
};

/**
 * A pool of parsing processes; each does one task after the other and ends after an idle minute. A task
 * that takes too long or too much memory ends its process and no other.
 */
export const createParser = (processes: number) => {
  const queue: Waiting[] = [];
  const idle: ChildProcess[] = [];
  let alive = 0;
  let ids = 0;

  const begin = (): ChildProcess => {
    alive++;
    const child = forkParser();
    child.once('exit', () => {
      alive--;
      const at = idle.indexOf(child);
      if (at >= 0) idle.splice(at, 1);
      next();
    });
    child.on('error', () => {});
    return child;
  };

  const rest = (child: ChildProcess) => {
    idle.push(child);
    child.unref();
    child.channel?.unref();
    const timer = setTimeout(() => {
      const at = idle.indexOf(child);
      if (at < 0) return;
      // Out of the list first, so that nothing is given to one that is about to end.
      idle.splice(at, 1);
      child.kill('SIGKILL');
    }, IDLE_MS);
    timer.unref();
    next();
  };

  const next = () => {
    const waiting = queue[0];
    if (!waiting) return;
    const child = idle.pop() ?? (alive < processes ? begin() : undefined);
    if (!child) return;
    queue.shift();
    work(child, ++ids, waiting, rest);
  };

  return {
    /**
     * Does a task in a process of its own.
     *
     * @throws ParsingEnded where it went beyond its limits; else what the task itself threw
     */
    run: <N extends TaskName>(task: N, args: ArgumentsOf<N>, limits: Limits): Promise<ResultOf<N>> =>
      new Promise((resolve, reject) => {
        queue.push({ task, args, limits, resolve: resolve as never, reject });
        next();
      }),
  };
};
