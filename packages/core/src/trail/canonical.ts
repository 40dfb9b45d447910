export type Json = null | boolean | number | string | Json[] | { [key: string]: Json };

/**
 * The canonical form of a JSON value (RFC 8785): keys sorted by UTF-16 code units, no white space, numbers and strings as
 * ECMAScript writes them. Members whose value is undefined are left out. Throws on what JSON cannot hold.
 */
export const canonicalJson = (value: unknown): string => {
  if (value === null || typeof value === 'boolean' || typeof value === 'string') {
    if (typeof value === 'string' && !isWellFormed(value)) throw new Error('a lone surrogate has no canonical form');
    return JSON.stringify(value);
  }
  if (typeof value === 'number') {
    if (!Number.isFinite(value)) throw new Error('a number that is not finite has no canonical form');
    return JSON.stringify(value);
  }
  if (Array.isArray(value))
    return `[${value.map((item) => canonicalJson(item === undefined ? null : item)).join(',')}]`;
  if (typeof value === 'object') {
    const members = value as Record<string, unknown>;
    let text = '';
    // The default order of sort is that of UTF-16 code units, as RFC 8785 wants it.
    for (const key of Object.keys(members).sort()) {
      const member = members[key];
      if (member !== undefined) text += `${text === '' ? '' : ','}${canonicalJson(key)}:${canonicalJson(member)}`;
    }
    return `{${text}}`;
  }
  throw new Error(`a ${typeof value} has no canonical form`);
};

const isWellFormed = (text: string) => !/[\uD800-\uDFFF]/u.test(text);
