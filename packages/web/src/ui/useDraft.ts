import { type Brought, isSame, rebaseDraft, ruleDifferences } from '@kanonos/core';
import { useCallback, useMemo, useRef, useState } from 'react';

/** The state of a form: its base, the edited part of it, the typed draft, and how often it was replaced from outside. */
export type Drafted<T, D> = { base: T; origin: D; draft: D; round: number };

/**
 * Handles a new state from the server under an open form. Nothing typed: the new state. Something typed, and the part
 * edited here is unchanged there: the form continues on the new state. Otherwise it stays on the old one, so that saving is refused
 * instead of undoing what somebody else saved.
 */
export const follow = <T, D>(known: Drafted<T, D>, now: T, fresh: D): Drafted<T, D> => {
  if (known.base === now) return known;
  if (isSame(known.draft, known.origin))
    return { base: now, origin: fresh, draft: fresh, round: known.round + (isSame(known.draft, fresh) ? 0 : 1) };
  return isSame(fresh, known.origin) ? { ...known, base: now } : known;
};

type Things = Record<string, unknown>;

export type Draft<T, D> = {
  /** The state that the draft began from, sent with it when it is saved. */
  base: T;
  draft: D;
  /** Another one each time when the draft was replaced by `bring`, `anew` or what came: the key of parts that keep their own text. */
  round: number;
  edit: (change: Partial<D>) => void;
  isDirty: boolean;
  /** The same, known at once after `saved`, before anything is drawn anew. */
  isDirtyNow: () => boolean;
  /** Set when somebody else saved something else meanwhile: the places that were changed there, and those of them that were changed here, too. */
  meanwhile: { theirs: string[]; both: string[] } | null;
  /** Applies the typed changes to the other person's state. */
  bring: () => void;
  /** Discards the draft for the present state. */
  anew: () => void;
  /** Call this when the draft is saved: the next state from the server is followed. */
  saved: () => void;
};

/**
 * A form's draft of something that others may change, too. `now` is it as last heard of, `draftOf` takes out what is edited, `start` is
 * what the form itself changes in it before anything is typed.
 */
export const useDraft = <T, D extends object>(
  now: T,
  draftOf: (thing: T) => D,
  start: Partial<D> = {},
): Draft<T, D> => {
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is taken out depends on the thing alone
  const fresh = useMemo(() => draftOf(now), [now]);
  const [known, setKnown] = useState<Drafted<T, D>>({
    base: now,
    origin: fresh,
    draft: { ...fresh, ...start },
    round: 0,
  });
  const followed = follow(known, now, fresh);
  if (followed !== known) setKnown(followed);
  const { base, origin, draft, round } = followed;
  const isDirty = useMemo(() => !isSame(draft, origin), [draft, origin]);
  const settled = useRef<D | null>(null);
  const brought = useMemo<Brought<D> | null>(
    () => (base === now ? null : rebaseDraft(origin, draft, fresh)),
    [base, now, origin, draft, fresh],
  );
  return {
    base,
    draft,
    round,
    edit: useCallback((change) => setKnown((before) => ({ ...before, draft: { ...before.draft, ...change } })), []),
    isDirty,
    isDirtyNow: () => isDirty && settled.current !== draft,
    meanwhile: brought && {
      theirs: ruleDifferences({ ...origin } as Things, { ...fresh } as Things).map(({ what }) => what),
      both: brought.both,
    },
    bring: () => brought && setKnown({ base: now, origin: fresh, draft: brought.value, round: round + 1 }),
    anew: () => setKnown({ base: now, origin: fresh, draft: fresh, round: round + 1 }),
    saved: () => {
      settled.current = draft;
      setKnown((before) => ({ ...before, origin: before.draft }));
    },
  };
};
