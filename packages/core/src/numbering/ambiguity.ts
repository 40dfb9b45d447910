import type { KnownRule } from './recognise.ts';
import { codesOf, type RuleElement, scopePattern } from './rule.ts';

/** A number that could be rendered in two ways, with both readings in words. */
export type Collision = { number: string; readings: [string, string] };

type State = { rule: number; final: boolean; edges: Map<string, number[]>; note?: string };

/**
 * Finds the shortest, then smallest number that some rule could render in two ways, or two rules could both render;
 * undefined when there is none. The rules become one automaton in which every reading is one path; two paths that spell
 * the same text and differ somewhere are a collision, found by breadth-first search over pairs of states. A retired rule counts
 * with the numbers that it gave, and not against a rule that goes on counting in its scope: those two never give one number twice.
 */
export const findCollision = (rules: readonly KnownRule[]): Collision | undefined => {
  const { states, starts } = buildAutomaton(rules);
  const key = (p: number, q: number, apart: boolean) => `${p},${q},${apart ? 1 : 0}`;
  const seen = new Set<string>();
  type Pair = { p: number; q: number; apart: boolean };
  let level = new Map<string, Pair[]>([['', []]]);
  for (let i = 0; i < starts.length; i++) {
    for (let j = i; j < starts.length; j++) {
      if (countApart(rules[i] as KnownRule, rules[j] as KnownRule)) continue;
      const pair = { p: starts[i] as number, q: starts[j] as number, apart: i !== j };
      seen.add(key(pair.p, pair.q, pair.apart));
      level.get('')?.push(pair);
    }
  }
  for (let length = 0; length <= 80 && level.size > 0; length++) {
    const next = new Map<string, Pair[]>();
    for (const text of [...level.keys()].sort()) {
      const pairs = level.get(text) as Pair[];
      const hit = pairs.find(({ p, q, apart }) => apart && states[p]?.final && states[q]?.final);
      if (hit)
        return { number: text, readings: [spell(rules, states, hit.p, text), spell(rules, states, hit.q, text)] };
      const letters = new Set(pairs.flatMap(({ p }) => [...(states[p] as State).edges.keys()]));
      for (const letter of [...letters].sort()) {
        for (const { p, q, apart } of pairs) {
          for (const p2 of states[p]?.edges.get(letter) ?? []) {
            for (const q2 of states[q]?.edges.get(letter) ?? []) {
              if (!apart && q2 < p2) continue;
              const apart2 = apart || p2 !== q2;
              const id = key(p2, q2, apart2);
              if (seen.has(id)) continue;
              seen.add(id);
              const group = next.get(text + letter);
              if (group) group.push({ p: p2, q: q2, apart: apart2 });
              else next.set(text + letter, [{ p: p2, q: q2, apart: apart2 }]);
            }
          }
        }
      }
    }
    level = next;
  }
  return undefined;
};

/** Two rules that cannot collide: both of the past, or one that goes on where the other stopped. */
const countApart = (a: KnownRule, b: KnownRule): boolean => {
  if (!a.retired) return b.retired !== undefined && scopePattern(a.rule, a.codes).test(b.retired.scope);
  return b.retired !== undefined || scopePattern(b.rule, b.codes).test(a.retired.scope);
};

/**
 * One final state per whole reading up to its counter loop: states carry the branch (which code of which token), so that
 * two readings of the same text never share all their states.
 */
const buildAutomaton = (rules: readonly KnownRule[]): { states: State[]; starts: number[] } => {
  const states: State[] = [];
  const newState = (rule: number, note?: string) =>
    states.push({ rule, final: false, edges: new Map(), ...(note ? { note } : {}) }) - 1;
  const edge = (from: number, letter: string, to: number) => {
    const edges = (states[from] as State).edges;
    edges.set(letter, [...(edges.get(letter) ?? []), to]);
  };
  const spellOut = (from: number, text: string, rule: number, note?: string): number => {
    let current = from;
    for (const letter of text) {
      const to = newState(rule, note);
      edge(current, letter, to);
      current = to;
    }
    return current;
  };
  const digits = '0123456789'.split('');

  /** Adds an element after each of the given states and gives the states after which the next one goes. */
  const append = (froms: number[], element: RuleElement, rule: number, known: KnownRule): number[] => {
    switch (element.kind) {
      case 'literal':
        return froms.map((from) => spellOut(from, element.text, rule));
      case 'code':
        return froms.flatMap((from) =>
          codesOf(element, known.codes).map((code) => spellOut(from, code, rule, `${element.token} ${code}`)),
        );
      case 'month':
        return froms.flatMap((from) =>
          Array.from({ length: 12 }, (_, m) => spellOut(from, String(m + 1).padStart(2, '0'), rule)),
        );
      case 'year':
        return froms.map((from) => {
          let current = from;
          for (let i = 0; i < element.digits; i++) {
            const to = newState(rule);
            for (const digit of digits) edge(current, digit, to);
            current = to;
          }
          return current;
        });
      case 'parent':
        return froms.flatMap((from) =>
          rules
            .filter((other) => other.id !== known.id && !other.rule.elements.some((e) => e.kind === 'parent'))
            .flatMap((other) => other.rule.elements.reduce((ends, e) => append(ends, e, rule, other), [from])),
        );
      case 'counter':
        return froms.flatMap((from) =>
          known.retired
            ? givenCounters(from, element.width, known.retired.last, rule)
            : counter(from, element.width, rule),
        );
    }
  };

  /** A counter is never 0, has at least W digits, and no leading zero beyond W. */
  const counter = (from: number, width: number, rule: number): number[] => {
    const ends: number[] = [];
    // Exactly W digits with a leading zero: track whether a digit other than zero was seen.
    let zeros = [from];
    let some: number | undefined;
    for (let i = 0; i < width; i++) {
      const zero = newState(rule);
      const nonzero = newState(rule);
      for (const state of zeros) {
        edge(state, '0', zero);
        if (i > 0) for (const digit of digits.slice(1)) edge(state, digit, nonzero);
      }
      if (some !== undefined) for (const digit of digits) edge(some, digit, nonzero);
      zeros = [zero];
      some = i > 0 ? nonzero : undefined;
    }
    if (some !== undefined) ends.push(some);
    // W digits or more beginning with another digit than zero.
    let current = newState(rule);
    for (const digit of digits.slice(1)) edge(from, digit, current);
    for (let i = 1; i < width; i++) {
      const to = newState(rule);
      for (const digit of digits) edge(current, digit, to);
      current = to;
    }
    for (const digit of digits) edge(current, digit, current);
    ends.push(current);
    return ends;
  };

  /** The counters 1 to `last` of a retired rule, each as it was written: states know whether they may still go beyond the last. */
  const givenCounters = (from: number, width: number, last: number, rule: number): number[] => {
    const ends: number[] = [];
    const most = String(last).padStart(width, '0');
    for (let length = width; length <= most.length; length++) {
      const bound = length === most.length ? most : undefined;
      const made = new Map<string, number>();
      const grow = (state: number, at: number, tight: boolean, zero: boolean): void => {
        if (at === length) {
          if (!zero) ends.push(state);
          return;
        }
        for (const digit of digits) {
          if (digit === '0' && at === 0 && length > width) continue;
          const limit = tight && bound ? (bound[at] as string) : '9';
          if (digit > limit) continue;
          const next = { tight: tight && digit === limit, zero: zero && digit === '0' };
          const key = `${at} ${next.tight} ${next.zero}`;
          const known = made.get(key);
          const to = known ?? newState(rule);
          edge(state, digit, to);
          if (known !== undefined) continue;
          made.set(key, to);
          grow(to, at + 1, next.tight, next.zero);
        }
      };
      grow(from, 0, bound !== undefined, true);
    }
    return ends;
  };

  const starts = rules.map((known, rule) => {
    const start = newState(rule);
    const ends = known.rule.elements.reduce((froms, element) => append(froms, element, rule, known), [start]);
    for (const end of ends) (states[end] as State).final = true;
    return start;
  });
  return { states, starts };
};

/** Puts a reading into words by finding the path that spells the text and ends in the state. */
const spell = (rules: readonly KnownRule[], states: State[], end: number, text: string): string => {
  const rule = (states[end] as State).rule;
  const known = rules[rule] as KnownRule;
  const before = new Map<string, string>();
  let frontier = new Map<number, string[]>();
  for (const [index, state] of states.entries()) {
    if (state.rule === rule && !before.size && frontier.size === 0 && index === firstStateOf(states, rule))
      frontier.set(index, []);
  }
  let position = 0;
  for (const letter of text) {
    const next = new Map<number, string[]>();
    for (const [state, notes] of frontier) {
      for (const to of states[state]?.edges.get(letter) ?? []) {
        const note = states[to]?.note;
        if (!next.has(to)) next.set(to, note && notes.at(-1) !== note ? [...notes, note] : notes);
      }
    }
    frontier = next;
    position++;
  }
  const notes = frontier.get(end) ?? [];
  const consumed = notes.map((note) => note.split(' ').at(-1) ?? '').join('');
  const counter = counterText(known, text, consumed, notes);
  return `${known.rule.text}: ${[...notes, counter].filter(Boolean).join(', ')}${position ? '' : ' (empty)'}`;
};

const firstStateOf = (states: State[], rule: number) => states.findIndex((state) => state.rule === rule);

/** The digits of the counter, found by removing the other elements from both ends. */
const counterText = (known: KnownRule, text: string, _consumed: string, notes: string[]): string => {
  const { elements } = known.rule;
  const at = elements.findIndex((element) => element.kind === 'counter');
  if (elements.some((element) => element.kind === 'parent')) return '';
  let noteIndex = 0;
  const width = (element: RuleElement) => {
    if (element.kind === 'literal') return element.text.length;
    if (element.kind === 'year') return element.digits;
    if (element.kind === 'month') return 2;
    return (notes[noteIndex++]?.split(' ').at(-1) ?? '').length;
  };
  const head = elements.slice(0, at).reduce((sum, element) => sum + width(element), 0);
  const tail = elements.slice(at + 1).reduce((sum, element) => sum + width(element), 0);
  return `counter ${text.slice(head, text.length - tail)}`;
};
