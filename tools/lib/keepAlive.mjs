import { say } from './say.mjs';

/** Pauses before a server that ended is started again, in seconds; after a minute of work the first one holds again. */
const PAUSES = [1, 2, 4, 8, 15, 30, 60];
const STEADY_MS = 60_000;

/**
 * Starts a server again that ended by itself, with growing pauses, so that a fault that comes back does not spin.
 *
 * @param {{ begin: () => import('node:child_process').ChildProcess, isStopping: () => boolean,
 *   current: () => import('node:child_process').ChildProcess, replace: (next: import('node:child_process').ChildProcess) => void,
 *   pauses?: readonly number[], tell?: (line: string) => void }} it `current` is the running one, `replace` takes the next one
 */
export const keepAlive = ({ begin, isStopping, current, replace, pauses = PAUSES, tell = say }) => {
  let failures = 0;
  const watch = (child) => {
    const began = Date.now();
    child.once('exit', (code, signal) => {
      if (isStopping() || child !== current()) return;
      if (Date.now() - began > STEADY_MS) failures = 0;
      const pause = pauses[Math.min(failures++, pauses.length - 1)];
      tell(`The server ended (${signal ?? code}). It is started again in ${pause} s.`);
      setTimeout(() => {
        if (isStopping()) return;
        const next = begin();
        next.stdout.on('data', (text) => {
          if (String(text).includes('listening on')) tell('The server is back.');
          else process.stdout.write(text);
        });
        replace(next);
        watch(next);
      }, pause * 1000);
    });
  };
  watch(current());
};
