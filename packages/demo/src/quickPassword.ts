import { hash } from '@node-rs/argon2';

/**
 * A digest of a password that is checked at once. Hundreds of signatures are given while the demo is loaded; when it is done everyone has
 * a digest as strong as any other.
 */
export const quickPassword = (password: string): Promise<string> =>
  hash(password.normalize('NFKC'), { memoryCost: 8, timeCost: 1, parallelism: 1 });
