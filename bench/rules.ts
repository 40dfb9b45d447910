// Judging a list of numbers on shape, for an organisation of 40 rules.
import { createNumberBench, type KnownRule, parseRule, readNumber } from '@kanonos/core';
import { quantile, rate } from './measure.ts';

const LINES = 100_000;

/** Forty rules: twenty types in five families, areas, years, departments, sheets under a parent. */
export const fortyRules = (): KnownRule[] =>
  Array.from({ length: 40 }, (_, i) => {
    const prefix = `H${String(i).padStart(2, '0')}`;
    const text = [
      `${prefix}-{type}-{counter:4}`,
      `${prefix}-D-{area}{counter:3}`,
      `${prefix}-M-{year}-{counter:3:per=year}`,
      `${prefix}/{department}/{year:2}-{counter:4}`,
    ][i % 4] as string;
    const rule = parseRule(text);
    if (!rule.ok) throw new Error(text);
    const codes = {
      types: ['PRO', 'WIN', 'FRM', 'DWG', 'SPC', 'RPT'],
      areas: ['1', '2', '3', '4', '5', '6', '7'],
      departments: ['OPS', 'ENG', 'QAS', 'PUR'],
      fields: {},
    };
    return { id: text, rule: rule.value, codes };
  });

const lineAt = (i: number): string => {
  const prefix = `H${String(i % 40).padStart(2, '0')}`;
  const n = 1 + ((i * 7919) % 9000);
  const four = String(n).padStart(4, '0');
  if (i % 50 === 49) return `BRH ${n}`;
  if (i % 25 === 24) return `${prefix}-${n}`;
  return [
    `${prefix}-PRO-${four}`,
    `${prefix}-D-3${String(n % 1000 || 1).padStart(3, '0')}`,
    `${prefix}-M-2026-${String(n % 1000 || 1).padStart(3, '0')}`,
    `${prefix}/ENG/26-${four}`,
  ][i % 4] as string;
};

export const rules = () => {
  const organisation = fortyRules();
  const lines = Array.from({ length: LINES }, (_, i) => lineAt(i));
  const ours = () => {
    const bench = createNumberBench(organisation);
    const began = performance.now();
    const verdicts = bench.judge(lines);
    const seconds = (performance.now() - began) / 1000;
    if (verdicts.length !== LINES) throw new Error('a line without a verdict');
    return LINES / seconds;
  };
  /** The same lines by the rules one by one, a tenth of them. */
  const bare = () => {
    const began = performance.now();
    for (let i = 0; i < LINES; i += 10) readNumber(organisation, lines[i] as string);
    return LINES / 10 / ((performance.now() - began) / 1000);
  };
  const [a, b]: [number[], number[]] = [[], []];
  for (let i = 0; i < 5; i++) {
    a.push(ours());
    b.push(bare());
  }
  rate(
    'rule bench: verdicts on shape, 40 rules (bare: rule by rule)',
    0,
    quantile(a, 0.5),
    quantile(b, 0.5),
    '≥ 200,000 per s',
    'per s',
  );
};
