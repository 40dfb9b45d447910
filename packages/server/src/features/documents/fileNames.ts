import { extensionOf, makeFileName } from '@kanonos/core';

type About = {
  number: string;
  revision: string;
  title: string;
  version: string;
  date: string;
  fields: Record<string, string>;
  rule: string;
};

/** The name under which an original is stored where names follow the rule; the second and further ones get a suffix. */
export const storedName = (name: string, index: number, { rule, ...about }: About): string => {
  const made = makeFileName({ ...about, extension: extensionOf(name) }, rule);
  if (index === 0) return made;
  const dot = made.lastIndexOf('.');
  return dot > 0 ? `${made.slice(0, dot)}_${index + 1}${made.slice(dot)}` : `${made}_${index + 1}`;
};
