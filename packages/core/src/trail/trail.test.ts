import { createHash, createPublicKey, generateKeyPairSync, sign, verify } from 'node:crypto';
import canonicalize from 'canonicalize';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { canonicalJson } from './canonical.ts';
import { chainEvents, type EventDraft, eventLine, eventText, fromHex, type Sha256, toHex } from './event.ts';
import { appendLeaf, emptyTree, type Head, headText, rootOf } from './tree.ts';
import { createVerifier, type SignedHead } from './verify.ts';

const sha256: Sha256 = (data) => createHash('sha256').update(data).digest();
const { publicKey, privateKey } = generateKeyPairSync('ed25519');
const key = publicKey.export({ type: 'spki', format: 'der' }).toString('base64');
const tools = {
  sha256,
  verifySignature: (text: string, signature: string, spki: string) =>
    verify(
      null,
      Buffer.from(text),
      createPublicKey({ key: Buffer.from(spki, 'base64'), type: 'spki', format: 'der' }),
      Buffer.from(signature, 'base64'),
    ),
};
const document = { id: '018876d0-0000-7000-8000-000000000118', number: 'THR-PRO-0118' };
const first: EventDraft = {
  kind: 'document.registered',
  actor: 'joren.adeyemi',
  subject: { document },
  payload: { title: 'Grip overhaul – slip-force test', type: 'PRO' },
};
const second: EventDraft = {
  kind: 'revision.checked-out',
  actor: 'joren.adeyemi',
  subject: { document, revision: { id: '018876d0-0000-7000-8000-00000000118a', label: 'A' } },
  payload: { expectedBack: null },
};

describe('the chain', () => {
  const [one] = chainEvents([first], undefined, '2023-06-02T08:15:00.000Z', sha256);
  const [two] = chainEvents([second], one?.event, '2023-06-02T08:16:30.250Z', sha256);

  test('an event hashes the canonical form of itself without the hash', () => {
    expect(one?.event.hash).toBe('fcc7b140825d85070cca941ad67edc812b2abcf4cfffb01248a58ec094264515');
    expect(two?.event.hash).toBe('9e9e3f7a865bed73775d684f453d7322dfe16cd885d4b79e940dd3893f89f1c2');
    expect(one?.text).toBe(eventText(one?.event as never));
  });

  test('as a line it is intact as exported and rewritten, and broken when a letter or a second member is changed', () => {
    const [event, text] = [one?.event as never, one?.text ?? ''];
    const line = eventLine(text, one?.event.hash ?? '');
    const judged = (written: string) => {
      const verifier = createVerifier(tools);
      verifier.line(written);
      return verifier.verdict().kind;
    };
    expect(judged(line)).toBe('intact');
    expect(judged(JSON.stringify(event, null, ' ').replaceAll('\n', ' '))).toBe('intact');
    expect(judged(line.replace('slip-force', 'slip force'))).toBe('broken');
    const end = `,"hash":"${one?.event.hash}"}`;
    expect(judged(line.replace(end, `,"payload":{"title":"Another"}${end}`))).toBe('broken');
    expect(judged(line.replace(end, `${end.slice(0, -1)},"payload":{"title":"Another"}${end}`))).toBe('broken');
  });

  test('bytes and their hexadecimal text give each other back', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 40 }), (bytes) => {
        expect(fromHex(toHex(bytes))).toEqual(bytes);
      }),
    );
    expect(fromHex('00FFab')).toEqual(new Uint8Array([0, 255, 171]));
  });

  test('tree roots over one, two and three events follow RFC 6962', () => {
    const hashes = [
      one?.event.hash,
      two?.event.hash,
      'f09b6829192bd93fa95bf55d64e58210f84922e4e4c90c06bdab2d2ec152916a',
    ] as string[];
    const roots: string[] = [];
    let tree = emptyTree;
    for (const hash of hashes) {
      tree = appendLeaf(tree, hash, sha256);
      roots.push(rootOf(tree, sha256));
    }
    expect(roots).toEqual([
      '0ca7743d2fa004e81f3b4a8d932206eaff90209b377ba038c7e14cc6b984790a',
      'db7b1f995f2b4b956c8724017fb4098728105d4b34424428f5b1c0d0aa63dc96',
      '2bd3024eb1266c33fc1d1016994f25e1b0f4b5b5dc63acda78652621bcdc72c4',
    ]);
  });

  test('time never runs backwards', () => {
    const [overdue] = chainEvents([second], one?.event, '2020-01-01T00:00:00.000Z', sha256);
    expect(overdue?.event.at).toBe(one?.event.at);
  });
});

test('the canonical form is that of RFC 8785', () => {
  fc.assert(fc.property(fc.jsonValue({ maxDepth: 4 }), (value) => canonicalJson(value) === canonicalize(value)));
  expect(canonicalJson({ b: 1e21, a: ['€', -0, undefined], c: undefined })).toBe('{"a":["€",0,null],"b":1e+21}');
  expect(() => canonicalJson(Number.NaN)).toThrow();
  expect(() => canonicalJson('\ud800')).toThrow();
});

describe('the verifier', () => {
  const chain = (n: number) =>
    chainEvents(
      Array.from({ length: n }, (_, i) => ({ ...first, payload: { i } })),
      undefined,
      '2026-01-01T00:00:00.000Z',
      sha256,
    );
  const headOver = (n: number): SignedHead => {
    const tree = chain(n).reduce((t, { event }) => appendLeaf(t, event.hash, sha256), emptyTree);
    const head: Head = { kind: 'head', size: n, root: rootOf(tree, sha256), at: '2026-01-01T23:00:00.000Z', key };
    return { ...head, signature: sign(null, Buffer.from(headText(head)), privateKey).toString('base64') };
  };
  const run = (lines: unknown[], known?: Parameters<typeof createVerifier>[1]) => {
    const verifier = createVerifier(tools, known);
    for (const line of lines) verifier.line(typeof line === 'string' ? line : JSON.stringify(line));
    return verifier.verdict();
  };
  const events = chain(9).map(({ event }) => event);

  test('reports intact up to the last event, and whether a given key confirms the heads', () => {
    expect(run([...events, headOver(9)])).toMatchObject({ kind: 'intact', upTo: 9, heads: 1, keyVouchedFor: false });
    expect(run([...events, headOver(9)], { key })).toMatchObject({ kind: 'intact', keyVouchedFor: true });
  });

  test('names the first event that was changed, left out, put in or swapped', () => {
    const swap = [...events];
    [swap[3], swap[4]] = [swap[4] as never, swap[3] as never];
    expect(run(events.map((e) => (e.seq === 5 ? { ...e, payload: { i: 99 } } : e)))).toMatchObject({
      kind: 'broken',
      seq: 5,
    });
    expect(run(events.filter((e) => e.seq !== 4))).toMatchObject({ kind: 'broken', seq: 5 });
    expect(run(swap)).toMatchObject({ kind: 'broken', seq: 5 });
    expect(run([...events.slice(0, 3), 'rubbish'])).toMatchObject({ kind: 'broken', seq: 4, line: 4 });
    expect(run([{ ...events[0], extra: 1 }])).toMatchObject({ kind: 'broken', seq: 1 });
  });

  test('a rewritten chain and a cut tail show against an earlier head', () => {
    const rewritten = chainEvents(
      Array.from({ length: 9 }, () => second),
      undefined,
      '2026-01-01T00:00:00.000Z',
      sha256,
    ).map((x) => x.event);
    expect(run(rewritten)).toMatchObject({ kind: 'intact' });
    expect(run(rewritten, { heads: [headOver(6)] })).toMatchObject({ kind: 'broken', seq: 6 });
    expect(run(events.slice(0, 5), { heads: [headOver(6)] })).toMatchObject({ kind: 'broken', seq: 6 });
  });

  test('a head whose signature or root does not fit is named', () => {
    expect(run([...events, { ...headOver(9), at: '2027-01-01T00:00:00.000Z' }])).toMatchObject({
      kind: 'broken',
      seq: 9,
    });
    expect(run([...events.slice(0, 8), headOver(9)])).toMatchObject({ kind: 'broken' });
  });

  test('any change of one character in an export is found', () => {
    const text = events.map((e) => JSON.stringify(e)).join('\n');
    fc.assert(
      fc.property(fc.integer({ min: 0, max: text.length - 1 }), fc.constantFrom('x', '7', '"', ' '), (at, letter) => {
        const changed = text.slice(0, at) + letter + text.slice(at + 1);
        if (changed === text) return true;
        const verdict = run(changed.split('\n'));
        // A blank that only replaces nothing of meaning cannot occur: the export has no optional white space.
        return verdict.kind === 'broken' && toHex(sha256(changed)) !== toHex(sha256(text));
      }),
      { numRuns: 200 },
    );
  });
});
