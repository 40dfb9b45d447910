import { type ComponentType, lazy } from 'react';
import { queryClient } from './client.ts';

const LOOK_EVERY = 50;

/** Resolves when what is shown first has arrived, or at the first press of a key, a finger or the mouse. */
const quiet = new Promise<void>((resolve) => {
  addEventListener('keydown', () => resolve(), { once: true, capture: true });
  addEventListener('pointerdown', () => resolve(), { once: true, capture: true });
  const look = () => (queryClient.isFetching() > 0 ? void setTimeout(look, LOOK_EVERY) : resolve());
  addEventListener('load', () => setTimeout(look, LOOK_EVERY * 4), { once: true });
  if (document.readyState === 'complete') setTimeout(look, LOOK_EVERY * 4);
});

/** A part of the frame that opens on a press: fetched once the first screen is there, so that it does not delay it. */
export const afterFirstScreen = <P extends object>(load: () => Promise<ComponentType<P>>) =>
  lazy(async () => {
    await quiet;
    return { default: await load() };
  });
