/** Two places with the same lines: `file:line` of each, and how many lines they share. */
export type RepeatedBlock = { a: string; b: string; lines: number };

/** Lines that every file has, and that say nothing of copying. */
const isNoise = (line: string) =>
  line === '' ||
  /^[\])};,>]+$/.test(line) ||
  /^(import|export \* from|\}? from) /.test(line) ||
  line.startsWith('//') ||
  line.startsWith('*') ||
  line.startsWith('/**');

/**
 * Pairs of places that share at least `least` lines in a row, longest first. Blank lines, imports, comments and closing
 * brackets are not counted. `sources` are texts by file.
 */
export const repeatedBlocks = (sources: ReadonlyMap<string, string>, least: number): RepeatedBlock[] => {
  const texts = [...sources].map(([file, text]) => ({
    file,
    lines: text
      .split('\n')
      .map((line, i) => ({ text: line.trim(), at: i + 1 }))
      .filter(({ text }) => !isNoise(text)),
  }));
  const places = new Map<string, { text: number; line: number }[]>();
  texts.forEach(({ lines }, text) => {
    for (let i = 0; i + least <= lines.length; i++) {
      const key = lines
        .slice(i, i + least)
        .map((line) => line.text)
        .join('\n');
      places.set(key, [...(places.get(key) ?? []), { text, line: i }]);
    }
  });
  const found: RepeatedBlock[] = [];
  const seen = new Set<string>();
  for (const list of places.values())
    for (let x = 0; x < list.length; x++)
      for (let y = x + 1; y < list.length; y++) {
        const [p, q] = [list[x], list[y]] as [{ text: number; line: number }, { text: number; line: number }];
        const [a, b] = [texts[p.text], texts[q.text]];
        // The middle of a longer block was counted with its beginning.
        const id = (back: number) => `${p.text}:${p.line - back}|${q.text}:${q.line - back}`;
        seen.add(id(0));
        if (!a || !b || seen.has(id(1)) || (p.text === q.text && q.line < p.line + least)) continue;
        let lines = least;
        while (a.lines[p.line + lines] && a.lines[p.line + lines]?.text === b.lines[q.line + lines]?.text) lines++;
        found.push({ a: `${a.file}:${a.lines[p.line]?.at}`, b: `${b.file}:${b.lines[q.line]?.at}`, lines });
      }
  return found.sort((one, other) => other.lines - one.lines);
};
