import type { Region } from '@kanonos/core';
import type { OverlayAnswer, OverlayRequest } from './overlay.worker.ts';
import { type Pages, pixelsOf } from './rasters.ts';

/** A page of each side, alone and both over each other, with what differs. */
export type Laid = {
  before: string;
  after: string;
  over: string;
  width: number;
  height: number;
  regions: Region[];
  share: number;
};

const MOST_MS = 30_000;

/** Compares two pictures in a worker that is ended when it takes too long. */
const layOver = (request: OverlayRequest): Promise<OverlayAnswer> =>
  new Promise((resolve, reject) => {
    const worker = new Worker(new URL('./overlay.worker.ts', import.meta.url), { type: 'module' });
    const end = (then: () => void) => {
      clearTimeout(timer);
      worker.terminate();
      then();
    };
    const timer = setTimeout(() => end(() => reject(new Error('Creating the overlay took too long.'))), MOST_MS);
    worker.onmessage = ({ data }: MessageEvent<OverlayAnswer>) => end(() => resolve(data));
    worker.onerror = () => end(() => reject(new Error('The overlay could not be created.')));
    worker.postMessage(request);
  });

const pictureOf = (answer: OverlayAnswer, width: number, height: number): string => {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  canvas.getContext('2d')?.putImageData(new ImageData(new Uint8ClampedArray(answer.overlay), width, height), 0, 0);
  return canvas.toDataURL();
};

/** Lays a page of one side over that of the other; where one has fewer, its last is taken. */
export const layPage = async (pages: { old: Pages; new: Pages }, page: number): Promise<Laid> => {
  const [a, b] = await Promise.all([
    pages.old.draw(Math.min(page, pages.old.count)),
    pages.new.draw(Math.min(page, pages.new.count)),
  ]);
  const pixels = pixelsOf(a, b);
  const answer = await layOver(pixels);
  const { width, height } = pixels;
  const { regions, share } = answer;
  return {
    before: a.toDataURL(),
    after: b.toDataURL(),
    over: pictureOf(answer, width, height),
    width,
    height,
    regions,
    share,
  };
};
