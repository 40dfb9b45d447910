import { createHash } from 'node:crypto';
import fc from 'fast-check';
import { expect, test } from 'vitest';
import { canonicalJson } from '../trail/canonical.ts';
import { type SignatureStatement, signatureFault, signatureSeal } from './seal.ts';

const sha256 = (data: string | Uint8Array) => createHash('sha256').update(data).digest();
const statement: SignatureStatement = {
  id: 'a1',
  digest: 'd'.repeat(64),
  revision: 'r1',
  person: 'p1',
  printedName: 'Lin Sato',
  meaning: 'approved as technical authority',
  at: '2026-11-25T09:00:00.000Z',
  zone: 'Europe/Zurich',
  method: 'password',
  for: null,
  assignment: 's1',
  reading: null,
};
const eventOf = (payload: object, actor = 'lin.sato') => {
  const text = canonicalJson({ actor, payload });
  return { text, hash: sha256(text).toString('hex') };
};
const seal = signatureSeal(statement, sha256);
const event = eventOf({ signature: 'a1', digest: statement.digest, seal });
const fault = (
  s: SignatureStatement,
  own: string | null = seal,
  e: { text: string; hash: string } | undefined = event,
) => signatureFault(s, own, e, 'lin.sato', sha256);

test('a signature that is as it was given fits its event', () => {
  expect(fault(statement)).toBeUndefined();
});

test('any change of a signature is detected by its seal and its event, also when the seal is made anew', () => {
  const keys = Object.keys(statement) as (keyof SignatureStatement)[];
  fc.assert(
    fc.property(fc.constantFrom(...keys), fc.string({ minLength: 1 }), (key, value) => {
      fc.pre(statement[key] !== value);
      const altered = { ...statement, [key]: value };
      return fault(altered) !== undefined && fault(altered, signatureSeal(altered, sha256)) !== undefined;
    }),
  );
});

test('a signature without an event, or with the event of somebody else, does not fit', () => {
  expect(signatureFault(statement, seal, undefined, 'lin.sato', sha256)).toBe('event missing');
  expect(fault(statement, seal, eventOf({ signature: 'a1', digest: statement.digest, seal }, 'mara.quill'))).toBe(
    'event',
  );
  expect(fault(statement, seal, { ...event, text: event.text.replace('a1', 'a2') })).toBe('event');
});

test('an event from before seals is held against record and meaning', () => {
  const old = eventOf({ signature: 'a1', digest: statement.digest, meaning: statement.meaning });
  expect(fault(statement, null, old)).toBeUndefined();
  expect(fault({ ...statement, meaning: 'read and understood' }, null, old)).toBe('row');
});

test('a release of before seals is compared by who acted and on which revision', () => {
  const of = (actor: string, revision: string) => {
    const text = canonicalJson({ actor, payload: {}, subject: { revision: { id: revision } } });
    return { text, hash: sha256(text).toString('hex') };
  };
  expect(fault(statement, null, of('lin.sato', 'r1'))).toBeUndefined();
  expect(fault(statement, null, of('mara.quill', 'r1'))).toBe('event');
  expect(fault(statement, null, of('lin.sato', 'r2'))).toBe('event');
  // A sealed signature needs an event with its seal.
  expect(fault(statement, seal, of('lin.sato', 'r1'))).toBe('event');
});
