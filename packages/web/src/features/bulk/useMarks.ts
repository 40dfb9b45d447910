import { useState } from 'react';

/** Which rows of a list are marked: one by one, or from the last one marked to this one. */
export const useMarks = () => {
  const [marks, setMarks] = useState<ReadonlySet<string>>(new Set());
  const [last, setLast] = useState<string | null>(null);
  const toggle = (id: string, order: readonly string[], extend: boolean) => {
    setMarks((before) => nextMarks(before, id, order, extend ? last : null));
    setLast(id);
  };
  return { marks, toggle, clear: () => setMarks(new Set()) };
};

/** The marks after one more was pressed; with `from`, all between it and this one are marked too. */
export const nextMarks = (
  before: ReadonlySet<string>,
  id: string,
  order: readonly string[],
  from: string | null,
): ReadonlySet<string> => {
  const next = new Set(before);
  const [a, b] = [from === null ? -1 : order.indexOf(from), order.indexOf(id)];
  if (a >= 0 && b >= 0) {
    for (const between of order.slice(Math.min(a, b), Math.max(a, b) + 1)) next.add(between);
    return next;
  }
  if (next.has(id)) next.delete(id);
  else next.add(id);
  return next;
};
