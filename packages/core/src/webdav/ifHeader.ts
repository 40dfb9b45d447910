/** One condition of an If header: a state token or an entity tag that must (or, with Not, must not) be there. */
export type IfCondition = { not: boolean; token: string } | { not: boolean; etag: string };
/** A list of conditions that must all hold, about the resource it names or else about the one that is asked for. */
export type IfList = { resource?: string; conditions: readonly IfCondition[] };

const PIECE = /\s*(?:<([^<>\s]*)>|\[((?:W\/)?"[^"]*")\]|(\()|(\))|(Not)\b)/iy;

/**
 * Reads an If header (RFC 4918 10.4): tagged or untagged lists of state tokens and entity tags.
 * Nothing when it is not well-formed, which is a bad request and never a condition that holds.
 */
export const parseIf = (header: string): IfList[] | undefined => {
  const lists: IfList[] = [];
  let resource: string | undefined;
  let open: IfCondition[] | undefined;
  let not = false;
  const text = header.trim();
  PIECE.lastIndex = 0;
  while (PIECE.lastIndex < text.length) {
    const match = PIECE.exec(text);
    if (!match) return undefined;
    const [, bracketed, etag, begin, end, negation] = match;
    if (begin) {
      if (open) return undefined;
      open = [];
    } else if (end) {
      if (!open || open.length === 0 || not) return undefined;
      lists.push({ ...(resource === undefined ? {} : { resource }), conditions: open });
      open = undefined;
    } else if (negation) {
      if (!open || not) return undefined;
      not = true;
    } else if (bracketed !== undefined && !open) {
      // Tagged and untagged lists do not mix.
      if (lists.length > 0 && resource === undefined) return undefined;
      resource = bracketed;
    } else if (open) {
      open.push(bracketed !== undefined ? { not, token: bracketed } : { not, etag: etag ?? '' });
      not = false;
    } else return undefined;
  }
  return open || lists.length === 0 ? undefined : lists;
};

/** The state of a resource: the tokens of the locks over it, and its entity tag where it has one. */
export type ResourceState = { tokens: ReadonlySet<string>; etag?: string };

/** Whether one of the lists holds (RFC 4918 10.4.3); a token of no lock, as `DAV:no-lock`, never matches. */
export const ifHolds = (lists: readonly IfList[], stateOf: (resource: string | undefined) => ResourceState): boolean =>
  lists.some(({ resource, conditions }) => {
    const state = stateOf(resource);
    return conditions.every(
      (condition) =>
        condition.not !== ('token' in condition ? state.tokens.has(condition.token) : state.etag === condition.etag),
    );
  });

/** Every lock token in a header, wherever it is: a submitted token opens its lock, also beside a list that fails. */
export const tokensOf = (lists: readonly IfList[]): Set<string> =>
  new Set(lists.flatMap((list) => list.conditions.flatMap((one) => ('token' in one && !one.not ? [one.token] : []))));

const [SHORTEST, USUAL, LONGEST] = [60, 600, 24 * 3600];

/** How long a lock is given for, in seconds: what the Timeout header asks first and is possible (RFC 4918 10.7). */
export const lockSeconds = (header: string | undefined): number => {
  const first = (header ?? '').split(',')[0]?.trim() ?? '';
  if (/^infinite$/i.test(first)) return LONGEST;
  const requested = /^second-(\d{1,10})$/i.exec(first)?.[1];
  return requested === undefined ? USUAL : Math.min(LONGEST, Math.max(SHORTEST, Number(requested)));
};
