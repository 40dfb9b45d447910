// Compares two texts beside the page, so that scrolling and typing go on.
import { type Compared, compareTexts } from '@kanonos/core';

export type CompareRequest = { old: string; new: string };

self.onmessage = ({ data }: MessageEvent<CompareRequest>) => {
  const answer: Compared = compareTexts(data.old, data.new);
  self.postMessage(answer);
};
