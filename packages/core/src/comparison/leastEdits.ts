/** A stretch that both sides have: from where in each, and how long. */
export type Common = { a: number; b: number; length: number };

/**
 * The stretches that two sequences have in common along a way of least insertions and deletions (Myers, An O(ND) Difference
 * Algorithm, 1986); null where it needs more than `most` of them, because its cost grows with their square.
 */
export const leastEdits = (a: readonly string[], b: readonly string[], most: number): Common[] | null => {
  let start = 0;
  while (start < a.length && start < b.length && a[start] === b[start]) start++;
  let end = 0;
  while (end < a.length - start && end < b.length - start && a[a.length - 1 - end] === b[b.length - 1 - end]) end++;
  const middle = middleOf(a.slice(start, a.length - end), b.slice(start, b.length - end), most);
  if (!middle) return null;
  return joined([
    { a: 0, b: 0, length: start },
    ...middle.map((one) => ({ ...one, a: one.a + start, b: one.b + start })),
    { a: a.length - end, b: b.length - end, length: end },
  ]);
};

const joined = (stretches: readonly Common[]): Common[] => {
  const all: Common[] = [];
  for (const one of stretches) {
    const last = all.at(-1);
    if (one.length === 0) continue;
    if (last && last.a + last.length === one.a && last.b + last.length === one.b) last.length += one.length;
    else all.push({ ...one });
  }
  return all;
};

const middleOf = (a: readonly string[], b: readonly string[], most: number): Common[] | null => {
  const [n, m] = [a.length, b.length];
  if (n === 0 || m === 0) return n + m <= most ? [] : null;
  // Sequences as figures: comparing those is what this does most.
  const numbers = new Map<string, number>();
  const toNumbers = (items: readonly string[]) =>
    Int32Array.from(items, (item) => {
      const known = numbers.get(item) ?? numbers.size;
      numbers.set(item, known);
      return known;
    });
  const [x, y] = [toNumbers(a), toNumbers(b)];
  const limit = Math.min(most, n + m);
  const furthest = new Int32Array(2 * limit + 3);
  const at = limit + 1;
  const trace: Int32Array[] = [];
  for (let d = 0; d <= limit; d++) {
    trace.push(furthest.slice(at - d, at + d + 1));
    for (let k = -d; k <= d; k += 2) {
      const down = k === -d || (k !== d && (furthest[at + k - 1] ?? 0) < (furthest[at + k + 1] ?? 0));
      let i = down ? (furthest[at + k + 1] ?? 0) : (furthest[at + k - 1] ?? 0) + 1;
      while (i < n && i - k < m && x[i] === y[i - k]) i++;
      furthest[at + k] = i;
      if (i >= n && i - k >= m) return walkBack(trace, d, n, m);
    }
  }
  return null;
};

/** The way back from the end, over what was kept of each round. */
const walkBack = (trace: readonly Int32Array[], rounds: number, n: number, m: number): Common[] => {
  const found: Common[] = [];
  let [i, j] = [n, m];
  for (let d = rounds; d > 0; d--) {
    const kept = trace[d] as Int32Array;
    const value = (k: number) => kept[k + d] ?? 0;
    const k = i - j;
    const down = k === -d || (k !== d && value(k - 1) < value(k + 1));
    const before = down ? k + 1 : k - 1;
    const [fromI, fromJ] = [value(before), value(before) - before];
    const [startI, startJ] = down ? [fromI, fromJ + 1] : [fromI + 1, fromJ];
    if (i > startI) found.push({ a: startI, b: startJ, length: i - startI });
    [i, j] = [fromI, fromJ];
  }
  if (i > 0) found.push({ a: 0, b: 0, length: i });
  return found.reverse();
};
