/** Items by key, keys in the order in which they first came. */
export const groupBy = <T, K>(items: readonly T[], keyOf: (item: T) => K): Map<K, T[]> => {
  const groups = new Map<K, T[]>();
  for (const item of items) {
    const key = keyOf(item);
    const group = groups.get(key);
    if (group) group.push(item);
    else groups.set(key, [item]);
  }
  return groups;
};

/** Waits for all of several answers by name, side by side; fails with the first that fails. */
export const allOf = async <T extends Record<string, unknown>>(
  asked: {
    [K in keyof T]: Promise<T[K]>;
  },
): Promise<T> =>
  Object.fromEntries(
    await Promise.all(Object.entries(asked).map(async ([name, answer]) => [name, await answer] as const)),
  ) as T;
