import { checkEvent, type Sha256, type TrailEvent } from './event.ts';
import { appendLeaf, emptyTree, type Head, headText, rootOf, type Tree } from './tree.ts';

/** What the verifier needs from outside: hashing and the check of an Ed25519 signature (public key as SPKI, base64). */
export type VerifierTools = {
  sha256: Sha256;
  verifySignature: (text: string, signatureBase64: string, publicKeyBase64: string) => boolean;
};

export type Verdict =
  | { kind: 'intact'; upTo: number; heads: number; keyVouchedFor: boolean; lastHash: string }
  | { kind: 'broken'; line: number; seq: number | undefined; reason: string };

/**
 * Verifies an export line by line (JSON Lines: events in order, heads between them), trusting neither server nor
 * database. Feed it lines, then ask for the verdict; the first failure stays. Memory does not grow with the length.
 */
export const createVerifier = (
  tools: VerifierTools,
  known: { heads?: readonly SignedHead[]; key?: string } = {},
): { line: (text: string) => boolean; verdict: () => Verdict } => {
  let last: { seq: number; hash: string; at: string } | undefined;
  let tree: Tree = emptyTree;
  let lineNumber = 0;
  let headCount = 0;
  let broken: Verdict | undefined;
  const vouched = known.key ?? known.heads?.[0]?.key;
  let keySeen = false;
  const knownBySize = new Map((known.heads ?? []).map((head) => [head.size, head]));

  const fail = (reason: string, seq?: number) => {
    broken = { kind: 'broken', line: lineNumber, seq, reason };
    return false;
  };

  const checkHead = (head: SignedHead): boolean => {
    if (head.size !== tree.size) return fail(`head over ${head.size} events ends after event ${tree.size}`, last?.seq);
    if (head.root !== rootOf(tree, tools.sha256))
      return fail(`head over ${head.size} events does not match them`, last?.seq);
    if (vouched && head.key !== vouched) return fail(`head over ${head.size} events bears another key`, last?.seq);
    if (!tools.verifySignature(headText(head), head.signature, head.key)) {
      return fail(`signature of the head over ${head.size} events does not fit`, last?.seq);
    }
    headCount++;
    keySeen = true;
    return true;
  };

  const checkKnown = (): boolean => {
    const head = knownBySize.get(tree.size);
    if (!head) return true;
    knownBySize.delete(tree.size);
    if (!tools.verifySignature(headText(head), head.signature, head.key))
      return fail(`the signature of the head given over ${tree.size} events does not fit`, last?.seq);
    if (head.root === rootOf(tree, tools.sha256)) return true;
    return fail(`the events up to ${tree.size} are not those of the head given`, last?.seq);
  };

  return {
    line: (text) => {
      if (broken) return false;
      lineNumber++;
      if (text.trim() === '') return true;
      let parsed: unknown;
      try {
        parsed = JSON.parse(text);
      } catch {
        return fail('not a line of JSON', (last?.seq ?? 0) + 1);
      }
      if (typeof parsed !== 'object' || parsed === null) return fail('not an event', (last?.seq ?? 0) + 1);
      if ((parsed as { kind?: unknown }).kind === 'head' && 'root' in parsed) return checkHead(parsed as SignedHead);
      const event = parsed as TrailEvent;
      let reason: string | undefined;
      try {
        reason = checkEvent(event, last, tools.sha256, text);
      } catch {
        reason = 'not an event';
      }
      if (reason) return fail(reason, typeof event.seq === 'number' ? event.seq : (last?.seq ?? 0) + 1);
      last = { seq: event.seq, hash: event.hash, at: event.at };
      tree = appendLeaf(tree, event.hash, tools.sha256);
      return checkKnown();
    },
    verdict: () => {
      if (broken) return broken;
      const missing = [...knownBySize.values()].sort((a, b) => a.size - b.size)[0];
      if (missing) {
        return {
          kind: 'broken',
          line: lineNumber,
          seq: tree.size + 1,
          reason: `cut: a head given covers ${missing.size} events, the export has ${tree.size}`,
        };
      }
      return {
        kind: 'intact',
        upTo: tree.size,
        heads: headCount,
        keyVouchedFor: Boolean(vouched) && keySeen,
        lastHash: last?.hash ?? '',
      };
    },
  };
};

export type SignedHead = Head & { signature: string };
