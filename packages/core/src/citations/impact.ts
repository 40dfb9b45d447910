/** One document that refers to another: by citing it, or by a link. */
export type Reference = { from: string; to: string };

/** A document that a change reaches: in how many steps, and over which others. */
export type Reached = { id: string; distance: number; path: string[] };

/**
 * Everything that reaches a document over references, the nearest first, each by one of its shortest ways: what may have to follow
 * when that document changes. References may run in circles; the document itself is not among them.
 */
export const impactOf = (changed: string, references: readonly Reference[]): Reached[] => {
  const referring = new Map<string, Set<string>>();
  for (const { from, to } of references) referring.set(to, (referring.get(to) ?? new Set()).add(from));
  const reached = new Map<string, Reached>([[changed, { id: changed, distance: 0, path: [changed] }]]);
  for (const { id, distance, path } of reached.values())
    for (const from of [...(referring.get(id) ?? [])].sort())
      if (!reached.has(from)) reached.set(from, { id: from, distance: distance + 1, path: [from, ...path] });
  reached.delete(changed);
  return [...reached.values()];
};
