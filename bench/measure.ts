// Timing ours and the bare part in turn, and keeping the lines of the table.
export const ROUNDS = Number(process.env.BENCH_ROUNDS ?? 30);

export const quantile = (values: number[], q: number) =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(values.length * q))] ?? 0;
export type Line = {
  what: string;
  size: number;
  ours: number;
  p95: number;
  bare: number;
  budget: string;
  unit: string;
};
export const lines: Line[] = [];

/** Times ours and the bare part in turn (A, B, A, B …), after a warm-up, and keeps median and p95. */
export const pair = async (
  what: string,
  size: number,
  budget: string,
  ours: (i: number) => Promise<unknown>,
  bare: (i: number) => Promise<unknown>,
  rounds = ROUNDS,
) => {
  const [a, b]: [number[], number[]] = [[], []];
  for (let i = 0; i < 3; i++) {
    await ours(i);
    await bare(i);
  }
  for (let i = 0; i < rounds; i++) {
    let began = performance.now();
    await ours(i);
    a.push(performance.now() - began);
    began = performance.now();
    await bare(i);
    b.push(performance.now() - began);
  }
  const line = {
    what,
    size,
    ours: quantile(a, 0.5),
    p95: quantile(a, 0.95),
    bare: quantile(b, 0.5),
    budget,
    unit: 'ms',
  };
  lines.push(line);
  print(line);
};

export const rate = (what: string, size: number, ours: number, bare: number, budget: string, unit: string) => {
  const line = { what, size, ours, p95: 0, bare, budget, unit };
  lines.push(line);
  print(line);
};

export const show = (n: number) => (n >= 100 ? n.toFixed(0) : n.toFixed(1));
const print = (l: Line) =>
  process.stdout.write(
    `${String(l.size).padStart(7)}  ${l.what.padEnd(58)} ours ${show(l.ours).padStart(7)}${l.p95 ? `  p95 ${show(l.p95).padStart(6)}` : ''}  bare ${show(l.bare).padStart(7)} ${l.unit}  ratio ${(l.ours / (l.bare || 1)).toFixed(2)}  (${l.budget})\n`,
  );
