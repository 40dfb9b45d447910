import { AROUND, findPlace, type Quote } from '@kanonos/core';

/** The text of an element as it is read, with the start of each of its text nodes; a blank separates nodes. */
const textIn = (root: Node): { text: string; nodes: { node: Text; start: number }[] } => {
  const walker = document.createTreeWalker(root, NodeFilter.SHOW_TEXT);
  const nodes: { node: Text; start: number }[] = [];
  let text = '';
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    nodes.push({ node: node as Text, start: text.length });
    text += `${node.nodeValue ?? ''} `;
  }
  return { text, nodes };
};

const rangeBetween = (nodes: { node: Text; start: number }[], start: number, end: number): Range | undefined => {
  const at = (place: number) => {
    const found = nodes.findLast((one) => one.start <= place);
    return found && { node: found.node, offset: Math.min(place - found.start, found.node.length) };
  };
  const [from, to] = [at(start), at(Math.max(start, end - 1))];
  if (!from || !to) return undefined;
  const range = document.createRange();
  range.setStart(from.node, from.offset);
  range.setEnd(to.node, Math.min(to.offset + 1, to.node.length));
  return range;
};

/** The rectangles of quoted words on the screen. */
export const rangeOfQuote = (root: Node, quote: Quote): Range | undefined => {
  const { text, nodes } = textIn(root);
  const found = findPlace(text, quote);
  return found && rangeBetween(nodes, found.start, found.end);
};

/** Every place of some words on the screen, whatever their case. */
export const rangesOfWords = (root: Node, words: string): Range[] => {
  const { text, nodes } = textIn(root);
  const [hay, needle] = [text.toLowerCase(), words.toLowerCase()];
  const ranges: Range[] = [];
  for (
    let at = hay.indexOf(needle);
    needle && at >= 0 && ranges.length < 500;
    at = hay.indexOf(needle, at + needle.length)
  ) {
    const range = rangeBetween(nodes, at, at + needle.length);
    if (range) ranges.push(range);
  }
  return ranges;
};

/** The selected words of an element with their surroundings; null without a selection. */
export const selectedQuote = (root: Node): Quote | null => {
  const selection = window.getSelection();
  if (!selection || selection.rangeCount === 0 || selection.isCollapsed) return null;
  // A paragraph that is selected whole ends at the beginning of what follows, which may be no text of this element.
  const range = selection.getRangeAt(0).cloneRange();
  if (!range.intersectsNode(root)) return null;
  if (!root.contains(range.startContainer)) range.setStart(root, 0);
  if (!root.contains(range.endContainer)) range.setEnd(root, root.childNodes.length);
  const quote = range.toString().replace(/\s+/g, ' ').trim().slice(0, 2000);
  if (!quote) return null;
  const around = document.createRange();
  around.setStart(root, 0);
  around.setEnd(range.startContainer, range.startOffset);
  const before = around.toString().replace(/\s+/g, ' ').slice(-AROUND);
  around.setStart(range.endContainer, range.endOffset);
  around.setEnd(root, root.childNodes.length);
  return { quote, before, after: around.toString().replace(/\s+/g, ' ').slice(0, AROUND) };
};

/** What the style sheet paints: words that are commented on, those of the chosen comment, words that were looked for. */
export type Paint = 'commented' | 'comment-chosen' | 'found';
const painted = new Map<Paint, Map<Node, readonly Range[]>>();

/** Paints ranges of an element, beside those of other elements; browsers that cannot show the text without. */
export const paint = (name: Paint, owner: Node, ranges: readonly Range[]): void => {
  if (!('highlights' in CSS)) return;
  const all = painted.get(name) ?? new Map<Node, readonly Range[]>();
  painted.set(name, all);
  if (ranges.length === 0) all.delete(owner);
  else all.set(owner, ranges);
  if (all.size === 0) CSS.highlights.delete(name);
  else CSS.highlights.set(name, new Highlight(...[...all.values()].flat()));
};
