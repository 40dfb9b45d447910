import { hash, verify } from '@node-rs/argon2';

const MIN_CHARACTERS = 12;
const MAX_CHARACTERS = 200;
const COMMON = [
  'password',
  'passwort',
  'qwertyuiop',
  '123456789',
  'letmein',
  'iloveyou',
  'administrator',
  'welcome',
  'changeme',
  'kanonos',
];
/** A digest that no password has: checking against it takes as long as a real check. */
const DECOY = '$argon2id$v=19$m=19456,t=2,p=1$c29tZXNhbHRzb21lc2FsdA$Yxhj4SMFZB9eYTFrXj6t0ay6nYzqlbBwOGbgR0DwBBo';

/** What is wrong with a new password (OWASP ASVS 2.1): too short, too long, a common one, or made from one's own name. */
export const passwordWeakness = (password: string, names: readonly string[]): string | undefined => {
  const plain = password.normalize('NFKC');
  if ([...plain].length < MIN_CHARACTERS) return `at least ${MIN_CHARACTERS} characters`;
  if ([...plain].length > MAX_CHARACTERS) return `at most ${MAX_CHARACTERS} characters`;
  const simple = plain.toLowerCase().replace(/[^\p{L}\p{N}]/gu, '');
  if (COMMON.some((common) => simple.includes(common) && simple.replaceAll(common, '').length < 4))
    return 'this one is among the most common';
  if (new Set(plain).size < 5) return 'too few different characters';
  const own = names.flatMap((name) => name.toLowerCase().split(/[^\p{L}\p{N}]+/u)).filter((part) => part.length >= 3);
  const rest = own.reduce((text, part) => text.replaceAll(part, ''), simple);
  if (rest.length < simple.length && rest.length < 5) return 'too near to your own name';
  return undefined;
};

export const hashPassword = (password: string): Promise<string> =>
  hash(password.normalize('NFKC'), { memoryCost: 19_456, timeCost: 2, parallelism: 1 });

/** Checks a password; without a digest it takes the same time and says no. */
export const checkPassword = async (password: string, digest: string | null): Promise<boolean> => {
  const right = await verify(digest ?? DECOY, password.normalize('NFKC')).catch(() => false);
  return right && digest !== null;
};
