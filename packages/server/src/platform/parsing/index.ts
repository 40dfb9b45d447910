import { refused } from '../refused.ts';
import { createParser, type Limits, ParsingEnded } from './parser.ts';
import type { ArgumentsOf, ResultOf, TaskName } from './tasks.ts';

export { ParsingEnded } from './parser.ts';

/** A person who waits for an answer does not wait for the night's work. */
const atOnce = createParser(2);
const behind = createParser(1);

const AT_ONCE: Limits = { seconds: 20 };
const BEHIND: Limits = { seconds: 60 };

/** Parses for somebody who waits; what breaks the process that reads it cannot be shown. */
export const parse = <N extends TaskName>(task: N, ...args: ArgumentsOf<N>): Promise<ResultOf<N>> =>
  parseWithin(AT_ONCE, task, ...args);

/** The same with other limits. */
export const parseWithin = <N extends TaskName>(
  limits: Limits,
  task: N,
  ...args: ArgumentsOf<N>
): Promise<ResultOf<N>> =>
  atOnce.run(task, args, limits).catch((error: Error) => {
    throw error instanceof ParsingEnded ? refused('file_too_hard', { reason: error.message }) : error;
  });

/** Parses for a job. @throws ParsingEnded where it went beyond its limits, so that it is not tried again by itself */
export const parseBehind = <N extends TaskName>(task: N, ...args: ArgumentsOf<N>): Promise<ResultOf<N>> =>
  behind.run(task, args, BEHIND);
