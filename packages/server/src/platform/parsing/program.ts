import { RefusalError } from '../refused.ts';
import { TASKS, type TaskName } from './tasks.ts';

/** The program of a parsing process: does one task after the other on request, and ends with its parent. */
type Order = { id: number; task: TaskName; args: unknown[] };

const answer = (message: unknown) => process.send?.(message);

process.on('message', async ({ id, task, args }: Order) => {
  try {
    const value = await (TASKS[task] as (...args: unknown[]) => Promise<unknown>)(...args);
    answer({ id, value });
  } catch (error) {
    const refusals = error instanceof RefusalError ? error.refusals : undefined;
    answer({ id, error: { message: String((error as Error)?.message ?? error).slice(0, 1000), refusals } });
  }
});
process.on('disconnect', () => process.exit(0));
answer({ ready: true });
