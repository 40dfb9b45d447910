import { describe, expect, test } from 'vitest';
import { checkPassword, hashPassword, passwordWeakness } from './passwords.ts';

const EASY = 'it is easy to guess; use several unrelated words';
const NAMES = ['mara.quill', 'Mara Quill'];

describe('a new password', () => {
  test.each([
    ['elevenchars', 'use at least 12 characters'],
    ['x'.repeat(201), 'use at most 200 characters'],
    ['passwordpassword', EASY],
    ['password12345', EASY],
    ['qwertyuiop1234', EASY],
    ['Welcome!!!!!!', EASY],
    ['aaaaaaaaaaaabb', 'use more different characters'],
    ['maraquill2026', 'it resembles your name'],
    ['correct horse battery', undefined],
    ['seven grips on carrier 31', undefined],
    ['ŝlosilo de la kabino', undefined],
  ])('%j is judged: %s', (password, weakness) => {
    expect(passwordWeakness(password, NAMES)).toBe(weakness);
  });

  test('counts characters as people do, not bytes or halves of a pair', () => {
    expect(passwordWeakness('🚠🚡🚟🚞🚝🚄🚅🚈🚂🚃🚋🚎', NAMES)).toBeUndefined();
    expect(passwordWeakness('🚠🚡🚟🚞🚝🚄🚅🚈🚂🚃🚋', NAMES)).toBe('use at least 12 characters');
  });
});

describe('a kept password', () => {
  test('is a digest that only the password fits, whichever way its letters are composed', async () => {
    const digest = await hashPassword('Prüfung der Klemme');
    expect(digest).toMatch(/^\$argon2id\$/);
    expect(digest).not.toContain('Klemme');
    expect(await checkPassword('Prüfung der Klemme'.normalize('NFD'), digest)).toBe(true);
    expect(await checkPassword('Pruefung der Klemme', digest)).toBe(false);
  });

  test('that does not exist fits nothing, and a digest that is none does not throw', async () => {
    expect(await checkPassword('anything at all', null)).toBe(false);
    expect(await checkPassword('anything at all', 'no digest')).toBe(false);
  });
});
