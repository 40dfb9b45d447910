import { type ComponentType, lazy } from 'react';
import { queryClient } from './client.ts';

const LOOK_EVERY = 50;
const LOOKS = 100;

const isShown = () => queryClient.isFetching() === 0 && document.querySelector('main h1, main [role="alert"]') !== null;

/** Resolves when what is shown first has arrived, at the first press of a key, a finger or the mouse, or after five seconds. */
const quiet = new Promise<void>((resolve) => {
  addEventListener('keydown', () => resolve(), { once: true, capture: true });
  addEventListener('pointerdown', () => resolve(), { once: true, capture: true });
  const look = (left: number) => {
    if (left === 0 || isShown()) resolve();
    else setTimeout(() => look(left - 1), LOOK_EVERY);
  };
  look(LOOKS);
});

/** A part of the frame that opens on a press: fetched once the first screen is there, so that it does not delay it. */
export const afterFirstScreen = <P extends object>(load: () => Promise<ComponentType<P>>) =>
  lazy(async () => {
    await quiet;
    return { default: await load() };
  });
