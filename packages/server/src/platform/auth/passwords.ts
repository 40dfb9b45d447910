import { hash, verify } from '@node-rs/argon2';
import { ZxcvbnFactory } from '@zxcvbn-ts/core';
import * as common from '@zxcvbn-ts/language-common';
import * as english from '@zxcvbn-ts/language-en';

const MIN_CHARACTERS = 12;
const MAX_CHARACTERS = 200;
/** Fewer guesses than a hundred million are too few (score 3 of 4). */
const ENOUGH = 3;
/** The number of characters the estimator reads: longer passwords are judged by their beginning, to bound the time. */
const LOOKED_AT = 64;
/** A digest that no password has: checking against it takes as long as a real check. */
const DECOY = '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$Yxhj4SMFZB9eYTFrXj6t0ay6nYzqlbBwOGbgR0DwBBo';

let estimator: ZxcvbnFactory | undefined;
/** Well-known lists of passwords, names and words; loaded when the first password is chosen. */
const estimate = (password: string, own: string[]): number => {
  estimator ??= new ZxcvbnFactory({
    dictionary: { ...common.dictionary, ...english.dictionary, organisation: ['kanonos', 'passwort', 'controlled'] },
    graphs: common.adjacencyGraphs,
  });
  return estimator.check(password.slice(0, LOOKED_AT), own).score;
};

/**
 * The fault of a new password (OWASP ASVS 2.1): too short, too long, too near to one's own name, or easily guessed by lists of
 * known passwords, words, dates and keyboard patterns.
 */
export const passwordWeakness = (password: string, names: readonly string[]): string | undefined => {
  const plain = password.normalize('NFKC');
  if ([...plain].length < MIN_CHARACTERS) return `use at least ${MIN_CHARACTERS} characters`;
  if ([...plain].length > MAX_CHARACTERS) return `use at most ${MAX_CHARACTERS} characters`;
  const simple = plain.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
  if (new Set(plain).size < 5) return 'use more different characters';
  const own = names.flatMap((name) => name.toLowerCase().split(/[^\p{L}\p{N}]+/u)).filter((part) => part.length >= 3);
  const rest = own.reduce((text, part) => text.replaceAll(part, ''), simple);
  if (rest.length < simple.length && rest.length < 5) return 'it resembles your name';
  if (estimate(plain, own) < ENOUGH) return 'it is easy to guess; use several unrelated words';
  return undefined;
};

export const hashPassword = (password: string): Promise<string> =>
  hash(password.normalize('NFKC'), { memoryCost: 19_456, timeCost: 2, parallelism: 1 });

/** Checks a password; without a digest it takes the same time and answers false. */
export const checkPassword = async (password: string, digest: string | null): Promise<boolean> => {
  const right = await verify(digest ?? DECOY, password.normalize('NFKC')).catch(() => false);
  return right && digest !== null;
};
