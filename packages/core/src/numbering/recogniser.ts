import { type KnownRule, type NumberParts, type Reading, readNumber } from './recognise.ts';
import { codesOf, type RuleElement, scopeOf } from './rule.ts';

type Parts = Omit<NumberParts, 'rule' | 'counter'>;

/** The rest of a rule after its fixed beginning: the rule, what was read so far, what is still to be read. */
type Leaf = { order: number; known: KnownRule; parts: Parts; tail: Tail; scopes: Map<string, string> };
type Tail =
  | { kind: 'counter'; width: number; end: string }
  | { kind: 'year'; digits: 2 | 4; between: string; width: number; end: string }
  /** Read the slow way: the rest cannot be read in one go. */
  | { kind: 'other' }
  /** A number that matches this far was intended for the rule, but none of its codes follows. */
  | { kind: 'meant' };
type Node = { next: Map<string, Node>; leaves: Leaf[] };

const newNode = (): Node => ({ next: new Map(), leaves: [] });

/**
 * Reads many numbers by the organisation's rules, with the same answers as `readNumber`. The fixed beginnings of all rules (their
 * text and codes) form one tree, so that a line is read once however many rules there are; what does not end in a
 * plain counter, and what no rule reads, is left to `readNumber`.
 */
export const createRecogniser = (rules: readonly KnownRule[]): ((text: string) => Reading) => {
  const recognise = createScopedRecogniser(rules);
  return (text) => recognise(text).reading;
};

/** The same with the scope in which a number counts, which is known once for all numbers of a beginning. */
export const createScopedRecogniser = (
  rules: readonly KnownRule[],
): ((text: string) => { reading: Reading; scope: string }) => {
  const byId = new Map(rules.map((known) => [known.id, known]));
  const root = newNode();
  rules.forEach((known, order) => {
    plant(known, order, root);
  });
  return (text) => {
    const found: Found[] = [];
    let node: Node | undefined = root;
    for (let at = 0; node; at++) {
      for (const leaf of node.leaves) found.push({ leaf, at });
      node = at < text.length ? node.next.get(text[at] as string) : undefined;
    }
    if (found.length === 0) return OUTSIDE;
    // The rule that comes first in the organisation answers, as in `readNumber`.
    if (found.length > 1) found.sort((a, b) => a.leaf.order - b.leaf.order);
    for (const { leaf, at } of found) {
      if (leaf.tail.kind === 'meant') continue;
      if (leaf.tail.kind === 'other') break;
      const parts = readTail(leaf, text, at);
      if (parts) return { reading: { kind: 'read', parts }, scope: scopeOfLeaf(leaf, parts) };
    }
    const reading = readNumber(rules, text, [...new Set(found.map(({ leaf }) => leaf.known))]);
    return { reading, scope: reading.kind === 'read' ? scopeOfParts(byId.get(reading.parts.rule), reading.parts) : '' };
  };
};

const OUTSIDE: { reading: Reading; scope: string } = { reading: { kind: 'outside' }, scope: '' };

const scopeOfLeaf = (leaf: Leaf, parts: NumberParts): string => {
  const year = parts.year ?? '';
  let scope = leaf.scopes.get(year);
  if (scope === undefined) {
    scope = scopeOfParts(leaf.known, parts);
    leaf.scopes.set(year, scope);
  }
  return scope;
};

type Found = { leaf: Leaf; at: number };

const plant = (known: KnownRule, order: number, root: Node): void => {
  const grow = (node: Node, elements: readonly RuleElement[], parts: Parts): void => {
    const [element, ...rest] = elements;
    if (element?.kind === 'literal') {
      grow(walkTo(node, element.text), rest, parts);
      return;
    }
    if (element?.kind === 'code') {
      const codes = codesOf(element, known.codes);
      for (const code of codes)
        grow(
          walkTo(node, code),
          rest,
          element.token === 'field'
            ? { ...parts, fields: { ...parts.fields, [element.key ?? '']: code } }
            : { ...parts, [element.token]: code },
        );
      // An unknown code is malformed, not outside: the slow way finds its position.
      node.leaves.push({ order, known, parts, tail: { kind: 'meant' }, scopes: new Map() });
      return;
    }
    node.leaves.push({
      order,
      known,
      parts,
      tail: tailOf(element ? [element, ...rest] : []),
      scopes: new Map(),
    });
  };
  grow(root, known.rule.elements, {});
};

const walkTo = (from: Node, text: string): Node => {
  let node = from;
  for (const letter of text) {
    let next = node.next.get(letter);
    if (!next) {
      next = newNode();
      node.next.set(letter, next);
    }
    node = next;
  }
  return node;
};

const isDigit = (text: string, at: number): boolean => {
  const code = text.charCodeAt(at);
  return code >= 48 && code <= 57;
};

/** The tails that are read in one go: a counter followed by text, or a year, text and a counter. */
const tailOf = (elements: readonly RuleElement[]): Tail => {
  const text = (element: RuleElement | undefined) =>
    element === undefined ? '' : element.kind === 'literal' && !isDigit(element.text, 0) ? element.text : undefined;
  const [a, b, c, d, ...more] = elements;
  if (a?.kind === 'counter' && c === undefined) {
    const end = text(b);
    if (end !== undefined) return { kind: 'counter', width: a.width, end };
  }
  if (a?.kind === 'year' && b?.kind === 'literal' && c?.kind === 'counter' && more.length === 0) {
    const end = text(d);
    if (end !== undefined) return { kind: 'year', digits: a.digits, between: b.text, width: c.width, end };
  }
  return { kind: 'other' };
};

const readTail = ({ known, parts, tail }: Leaf, text: string, start: number): NumberParts | undefined => {
  if (tail.kind === 'other' || tail.kind === 'meant') return undefined;
  let at = start;
  let year: string | undefined;
  if (tail.kind === 'year') {
    for (let i = 0; i < tail.digits; i++) if (!isDigit(text, at + i)) return undefined;
    year = text.slice(at, at + tail.digits);
    at += tail.digits;
    if (!text.startsWith(tail.between, at)) return undefined;
    at += tail.between.length;
  }
  let end = at;
  while (isDigit(text, end)) end++;
  const length = end - at;
  if (length < tail.width || (length > tail.width && text[at] === '0')) return undefined;
  if (text.length !== end + tail.end.length || !text.endsWith(tail.end)) return undefined;
  const counter = Number(text.slice(at, end));
  if (counter === 0 || (known.retired && counter > known.retired.last)) return undefined;
  return partsOf(parts, known.id, counter, year);
};

/** Parts with a counter. Written out for the usual rules of one code: copying an object by its keys takes several times as long. */
const partsOf = (parts: Parts, rule: string, counter: number, year: string | undefined): NumberParts => {
  const { type, area, department, fields, parent, month } = parts;
  if (fields === undefined && parent === undefined && month === undefined) {
    if (area === undefined && department === undefined) {
      if (type === undefined) return year === undefined ? { rule, counter } : { rule, counter, year };
      return year === undefined ? { rule, counter, type } : { rule, counter, type, year };
    }
    if (type === undefined && department === undefined && area !== undefined)
      return year === undefined ? { rule, counter, area } : { rule, counter, area, year };
    if (type === undefined && area === undefined && department !== undefined)
      return year === undefined ? { rule, counter, department } : { rule, counter, department, year };
  }
  return { ...parts, rule, counter, ...(year === undefined ? {} : { year }) };
};

/** The scope in which a number counts, from the parts read back from it. */
export const scopeOfParts = (known: KnownRule | undefined, parts: NumberParts): string => {
  if (!known) return '';
  const { type = '', area, department, parent, fields, year = '0000', month = '01' } = parts;
  // Only year and month of the day count; a year of two digits is read as it is written.
  const day = `${year.length === 2 ? `00${year}` : year}-${month}-01`;
  const scope = scopeOf(known.rule, {
    type,
    day,
    ...(area === undefined ? {} : { area }),
    ...(department === undefined ? {} : { department }),
    ...(parent === undefined ? {} : { parent }),
    ...(fields === undefined ? {} : { fields }),
  });
  return scope.ok ? scope.value : '';
};
