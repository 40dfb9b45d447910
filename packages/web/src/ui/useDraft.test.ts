import { describe, expect, test } from 'vitest';
import { type Drafted, follow } from './useDraft.ts';

type Thing = { rowVersion: number; name: string; documents: number };
const thing = (rowVersion: number, name: string, documents = 0): Thing => ({ rowVersion, name, documents });
const draftOf = ({ name }: Thing) => ({ name });
const began = (at: Thing, typed = at.name): Drafted<Thing, { name: string }> => ({
  base: at,
  origin: draftOf(at),
  draft: { name: typed },
  round: 0,
});
const after = (known: Drafted<Thing, { name: string }>, now: Thing) => follow(known, now, draftOf(now));

describe('a form whose base changes on the server', () => {
  const old = thing(1, 'Grips');

  test('follows it while nothing was typed', () => {
    expect(after(began(old), thing(2, 'Clamps'))).toEqual({ ...began(thing(2, 'Clamps')), round: 1 });
  });

  test('keeps what was typed, on the old state, when somebody else saved something else', () => {
    const typed = began(old, 'Grips and hangers');
    expect(after(typed, thing(2, 'Clamps'))).toBe(typed);
  });

  test('continues on the new state when the edited part is unchanged there', () => {
    const now = thing(2, 'Grips', 7);
    expect(after(began(old, 'Grips and hangers'), now)).toEqual({ ...began(old, 'Grips and hangers'), base: now });
  });

  test('takes its own saved state as its base, also where the server normalised it', () => {
    const saved = { ...began(old, ' Hangers'), origin: { name: ' Hangers' } };
    expect(after(saved, thing(2, 'Hangers'))).toEqual({ ...began(thing(2, 'Hangers')), round: 1 });
  });

  test('is left alone by the same state', () => {
    const typed = began(old, 'Hangers');
    expect(after(typed, old)).toBe(typed);
  });
});
