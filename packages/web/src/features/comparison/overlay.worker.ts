// Lays two pictures over each other beside the page, so that scrolling goes on.
import { compareRasters, type Region } from '@kanonos/core';

export type OverlayRequest = { before: Uint8ClampedArray; after: Uint8ClampedArray; width: number; height: number };
export type OverlayAnswer = { overlay: Uint8ClampedArray; regions: Region[]; share: number };

self.onmessage = ({ data }: MessageEvent<OverlayRequest>) => {
  const answer: OverlayAnswer = compareRasters(data.before, data.after, data.width, data.height);
  self.postMessage(answer, { transfer: [answer.overlay.buffer as ArrayBuffer] });
};
