import { createPublicKey, hash, verify } from 'node:crypto';
import { readFileSync } from 'node:fs';
import type { Sha256, SignedHead, VerifierTools } from '@kanonos/core';

/** SHA-256 as the core asks for it. */
export const sha256: Sha256 = (data) => hash('sha256', data, 'buffer');

/** What the core's verifier needs of cryptography: SHA-256 and Ed25519 (keys as SPKI, both base64). */
export const verifierTools: VerifierTools = {
  sha256,
  verifySignature: (text, signature, key) => {
    try {
      const publicKey = createPublicKey({ key: Buffer.from(key, 'base64'), type: 'spki', format: 'der' });
      return verify(null, Buffer.from(text), publicKey, Buffer.from(signature, 'base64'));
    } catch {
      return false;
    }
  },
};

/** The heads in a file of heads or in an earlier export. */
export const readHeads = (path: string): SignedHead[] =>
  readFileSync(path, 'utf8')
    .split('\n')
    .filter((line) => line.includes('"kind":"head"'))
    .map((line) => JSON.parse(line) as SignedHead);
