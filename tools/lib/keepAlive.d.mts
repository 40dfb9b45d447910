import type { ChildProcess } from 'node:child_process';

export function keepAlive(it: {
  begin: () => ChildProcess;
  isStopping: () => boolean;
  /** The one that runs. */
  current: () => ChildProcess;
  replace: (next: ChildProcess) => void;
  /** Seconds before each start after another. */
  pauses?: readonly number[];
  tell?: (line: string) => void;
}): void;
