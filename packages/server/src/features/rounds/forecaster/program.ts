import { parentPort } from 'node:worker_threads';
import type { PastAnswers } from '@kanonos/core';
import { drawAll, type ToForecast } from './draw.ts';

/** The program of the thread that forecasts: it keeps the past answers that it was given last. */
export type Order = { id: number; past?: PastAnswers; forecast: ToForecast };

let past: PastAnswers = new Map();

parentPort?.on('message', ({ id, past: newer, forecast }: Order) => {
  if (newer) past = newer;
  parentPort?.postMessage({ id, forecasts: drawAll(forecast, past) });
});
