// npm run verify-trail -- FILE [--heads FILE] [--key KEY]: checks an exported audit trail with nothing but the core's rules.
import { createReadStream, existsSync } from 'node:fs';
import { createInterface } from 'node:readline';
import { createVerifier } from '@kanonos/core';
import { readHeads, verifierTools } from './lib/verifierTools.ts';

const option = (name: string): string | undefined => {
  const at = process.argv.indexOf(name);
  return at > 0 ? process.argv[at + 1] : undefined;
};

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
  const verifier = createVerifier(verifierTools, {
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
