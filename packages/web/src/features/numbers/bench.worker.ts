// Judges a list beside the page, so that typing goes on: in pieces, each sent back as soon as it is done.
import { createNumberBench, type KnownRule, type LineVerdict, type ScopeGaps } from '@kanonos/core';

export type BenchRequest = { rules: KnownRule[]; lines: string[]; piece: number };
export type BenchAnswer = { verdicts: LineVerdict[]; done: number; gaps: ScopeGaps[] | null };

self.onmessage = (event: MessageEvent<BenchRequest>) => {
  const { rules, lines, piece } = event.data;
  const bench = createNumberBench(rules);
  for (let at = 0; at < lines.length || at === 0; at += piece) {
    const verdicts = bench.judge(lines.slice(at, at + piece));
    const done = Math.min(at + piece, lines.length);
    const answer: BenchAnswer = { verdicts, done, gaps: done === lines.length ? bench.gaps() : null };
    self.postMessage(answer);
  }
};
