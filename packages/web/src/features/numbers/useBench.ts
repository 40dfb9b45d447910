import { api, JUDGED_AT_ONCE, type Known, type NumberRule } from '@kanonos/contract';
import { type KnownRule, type LineVerdict, parseRule, type ScopeGaps } from '@kanonos/core';
import { useEffect, useState } from 'react';
import { call } from '../../app/client.ts';
import type { BenchAnswer, BenchRequest } from './bench.worker.ts';
import { wording } from './wording.ts';

/** What the bench has found so far: verdicts by shape, what is known of the numbers, gaps at the end. */
export type BenchState = {
  total: number;
  judged: number;
  lookedUp: number;
  verdicts: LineVerdict[];
  known: Map<string, Known>;
  gaps: ScopeGaps[];
  error: Error | null;
};
const NOTHING: BenchState = {
  total: 0,
  judged: 0,
  lookedUp: 0,
  verdicts: [],
  known: new Map(),
  gaps: [],
  error: null,
};

/** Rules as the organisation sends them, ready to read numbers by. */
export const toOrganisationRules = (rules: readonly NumberRule[]): KnownRule[] =>
  rules.flatMap(({ rule, codes, retired }) => {
    const parsed = parseRule(rule);
    if (!parsed.ok) return [];
    return [
      retired
        ? { id: wording.upTo(rule, retired.last), rule: parsed.value, codes, retired }
        : { id: rule, rule: parsed.value, codes },
    ];
  });

/**
 * Judges lines in a worker and asks the server, piece by piece, which of the numbers are given. A new list, or leaving the
 * page, ends what is under way.
 */
export const useBench = (rules: readonly NumberRule[], lines: readonly string[]): BenchState => {
  const [state, setState] = useState(NOTHING);
  useEffect(() => {
    setState({ ...NOTHING, total: lines.length });
    if (lines.length === 0) return;
    const over = new AbortController();
    const worker = new Worker(new URL('./bench.worker.ts', import.meta.url), { type: 'module' });
    let asking = Promise.resolve();
    const lookUp = async (verdicts: LineVerdict[], done: number) => {
      const folded = [...new Set(verdicts.filter((v) => v.kind !== 'malformed').map((v) => v.folded))];
      const { known } = folded.length
        ? await call(api.numbers.known, { body: { folded }, signal: over.signal })
        : { known: [] };
      if (over.signal.aborted) return;
      setState((before) => {
        const all = new Map(before.known);
        for (const one of known) all.set(one.folded, one);
        return { ...before, known: all, lookedUp: done };
      });
    };
    worker.onmessage = ({ data }: MessageEvent<BenchAnswer>) => {
      setState((before) => ({
        ...before,
        verdicts: before.verdicts.concat(data.verdicts),
        judged: data.done,
        gaps: data.gaps ?? before.gaps,
      }));
      // One piece after the other: a list of 100,000 lines must not keep others from being answered.
      asking = asking
        .then(() => lookUp(data.verdicts, data.done))
        .catch((error: Error) => {
          if (!over.signal.aborted) setState((before) => ({ ...before, error }));
        });
    };
    const request: BenchRequest = { rules: toOrganisationRules(rules), lines: [...lines], piece: JUDGED_AT_ONCE };
    worker.postMessage(request);
    return () => {
      over.abort();
      worker.terminate();
    };
  }, [rules, lines]);
  return state;
};
