/** What neither the database nor XML can hold: NUL, lone surrogates, and the two code points that are no characters. */
const FORBIDDEN = ['\0', '\ufffe', '\uffff'];
const isBad = (text: string) => !text.isWellFormed() || FORBIDDEN.some((one) => text.includes(one));
const MOST_LOOKED_AT = 200_000;

/** The path of the first text in a value that cannot be stored; undefined where all can. Any depth of nesting is fine. */
export const badTextIn = (value: unknown): string | undefined => {
  const left: { at: string; value: unknown }[] = [{ at: '', value }];
  for (let looked = 0; left.length > 0 && looked < MOST_LOOKED_AT; looked++) {
    const one = left.pop() as (typeof left)[number];
    if (typeof one.value === 'string') {
      if (isBad(one.value)) return one.at || 'request';
    } else if (one.value !== null && typeof one.value === 'object') {
      for (const [key, inner] of Object.entries(one.value)) {
        if (isBad(key)) return one.at || 'request';
        // A longer path would not help anybody.
        left.push({ at: one.at.length > 200 ? one.at : one.at ? `${one.at}.${key}` : key, value: inner });
      }
    }
  }
  return undefined;
};
