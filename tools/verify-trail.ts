// npm run verify-trail -- FILE [--heads FILE] [--key KEY]: checks an exported audit trail with nothing but the core's rules.
import { createPublicKey, hash, verify } from 'node:crypto';
import { createReadStream, existsSync, readFileSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { createVerifier, type SignedHead, type VerifierTools } from '@kanonos/core';

const tools: VerifierTools = {
  sha256: (data) => hash('sha256', data, 'buffer'),
  verifySignature: (text, signature, key) => {
    try {
      const publicKey = createPublicKey({ key: Buffer.from(key, 'base64'), type: 'spki', format: 'der' });
      return verify(null, Buffer.from(text), publicKey, Buffer.from(signature, 'base64'));
    } catch {
      return false;
    }
  },
};

const option = (name: string): string | undefined => {
  const at = process.argv.indexOf(name);
  return at > 0 ? process.argv[at + 1] : undefined;
};

const readHeads = (path: string): SignedHead[] =>
  readFileSync(path, 'utf8')
    .split('\n')
    .filter((line) => line.includes('"kind":"head"'))
    .map((line) => JSON.parse(line) as SignedHead);

const main = async (): Promise<number> => {
  const file = process.argv[2];
  if (!file || file.startsWith('--') || !existsSync(file)) {
    process.stderr.write(
      `${file ? `There is no file ${file}.` : 'Name the exported trail.'}\nnpm run verify-trail -- FILE [--heads EARLIER_EXPORT] [--key PUBLIC_KEY]\n`,
    );
    return 2;
  }
  const headsFile = option('--heads');
  const key = option('--key');
  const verifier = createVerifier(tools, {
    ...(headsFile ? { heads: readHeads(headsFile) } : {}),
    ...(key ? { key } : {}),
  });
  // Line by line: an export of any length takes the same memory.
  for await (const line of createInterface({ input: createReadStream(file), crlfDelay: Number.POSITIVE_INFINITY }))
    if (!verifier.line(line)) break;
  const verdict = verifier.verdict();
  if (verdict.kind === 'broken') {
    process.stdout.write(`Broken at event ${verdict.seq ?? '?'} (line ${verdict.line}): ${verdict.reason}.\n`);
    return 1;
  }
  const heads =
    verdict.heads === 0
      ? 'no head'
      : `${verdict.heads} ${verdict.heads === 1 ? 'head' : 'heads'}, ${verdict.keyVouchedFor ? 'key vouched for' : 'key not vouched for'}`;
  process.stdout.write(`Intact up to event ${verdict.upTo}; ${heads}.\n`);
  return 0;
};

process.exitCode = await main();
