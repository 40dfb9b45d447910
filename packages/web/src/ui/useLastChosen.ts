import { useEffect } from 'react';

/**
 * Which one of a list is open: the one that the address names, else the one that was open last in this browser, else the first, so that
 * no pane begins empty. An address that names one that is not there opens none.
 */
export const useLastChosen = <T>(
  place: string,
  all: readonly T[],
  keyOf: (one: T) => string,
  named: string | null | undefined,
): T | undefined => {
  const kept = `kanonos.last.${place}`;
  const find = (key: string | null) => all.find((one) => keyOf(one) === key);
  const chosen = named === null || named === undefined ? (find(localStorage.getItem(kept)) ?? all[0]) : find(named);
  const key = chosen && keyOf(chosen);
  useEffect(() => {
    if (key) localStorage.setItem(kept, key);
  }, [kept, key]);
  return chosen;
};
