import { canonicalJson } from './canonical.ts';
import { fromHex, type Sha256, toHex } from './event.ts';

/**
 * A growing RFC 6962 tree (section 2.1): leaf hash = SHA-256(0x00 ‖ data), node hash = SHA-256(0x01 ‖ left ‖ right). Leaf
 * data are the 32 bytes of an event's hash. Only the roots of the full subtrees are kept, so memory grows with log n.
 */
export type Tree = { size: number; peaks: readonly Uint8Array[] };

export const emptyTree: Tree = { size: 0, peaks: [] };

const joined = (prefix: number, ...parts: Uint8Array[]): Uint8Array => {
  const bytes = new Uint8Array(1 + parts.reduce((sum, part) => sum + part.length, 0));
  bytes[0] = prefix;
  let at = 1;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  return bytes;
};

/** The tree with one more leaf. */
export const appendLeaf = (tree: Tree, leafHex: string, sha256: Sha256): Tree => {
  const peaks = [...tree.peaks, sha256(joined(0, fromHex(leafHex)))];
  // As many full subtrees of equal size meet as the size before has trailing ones in binary.
  for (let size = tree.size; size % 2 === 1; size = (size - 1) / 2) {
    const right = peaks.pop() as Uint8Array;
    const left = peaks.pop() as Uint8Array;
    peaks.push(sha256(joined(1, left, right)));
  }
  return { size: tree.size + 1, peaks };
};

/** The root of the tree as hex; of an empty tree the hash of nothing. */
export const rootOf = (tree: Tree, sha256: Sha256): string => {
  if (tree.size === 0) return toHex(sha256(''));
  let root = tree.peaks.at(-1) as Uint8Array;
  for (let i = tree.peaks.length - 2; i >= 0; i--) root = sha256(joined(1, tree.peaks[i] as Uint8Array, root));
  return toHex(root);
};

/** A day head: the tree over all events so far, signed outside (Ed25519). */
export type Head = { kind: 'head'; size: number; root: string; at: string; key: string };

/** The bytes that are signed of a head. */
export const headText = (head: Head): string =>
  canonicalJson({ kind: head.kind, size: head.size, root: head.root, at: head.at, key: head.key });
