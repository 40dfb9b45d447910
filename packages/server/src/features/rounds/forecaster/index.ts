import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { Forecast, PastAnswers } from '@kanonos/core';
import { drawAll, type ToForecast } from './draw.ts';
import type { Order } from './program.ts';

type Answer = { id: number; forecasts: (Forecast | undefined)[] };
type Waiting = { resolve: (forecasts: Answer['forecasts']) => void; reject: (error: Error) => void };

/** What runs the source in a thread, where the server is not built. */
const sourceIn = (path: string): string =>
  `import('tsx/esm/api').then(({ register }) => { register(); return import(${JSON.stringify(pathToFileURL(path).href)}); });`;

/** Beside the server's own program when it is built; else the source, run by tsx. */
const startThread = (): Worker => {
  const built = ['.', '..']
    .map((up) => join(import.meta.dirname, up, 'forecaster.js'))
    .find((path) => existsSync(path));
  const thread = built
    ? new Worker(built)
    : new Worker(sourceIn(join(import.meta.dirname, 'program.ts')), { eval: true });
  // It keeps nobody from ending.
  thread.unref();
  return thread;
};

let thread: Worker | undefined;
/** The past that the thread has. */
let given: PastAnswers | undefined;
let ids = 0;
const waiting = new Map<number, Waiting>();

const ended = (which: Worker, error: Error): void => {
  if (thread !== which) return;
  thread = undefined;
  given = undefined;
  for (const { reject } of waiting.values()) reject(error);
  waiting.clear();
};

const threadNow = (): Worker => {
  if (thread) return thread;
  const started = startThread();
  started.on('message', ({ id, forecasts }: Answer) => {
    waiting.get(id)?.resolve(forecasts);
    waiting.delete(id);
  });
  started.on('error', (error: Error) => ended(started, error));
  started.on('exit', () => ended(started, new Error('the thread that forecasts has ended')));
  thread = started;
  return started;
};

/**
 * Forecasts rounds in a thread of its own, so that thousands of draws keep nobody else waiting. Where the thread fails they are drawn
 * here: a forecast is late rather than missing.
 */
export const forecastApart = (forecast: ToForecast, past: PastAnswers): Promise<(Forecast | undefined)[]> =>
  new Promise<Answer['forecasts']>((resolve, reject) => {
    const id = ++ids;
    waiting.set(id, { resolve, reject });
    const order: Order = given === past ? { id, forecast } : { id, past, forecast };
    const now = threadNow();
    now.postMessage(order);
    given = past;
  }).catch(() => drawAll(forecast, past));
