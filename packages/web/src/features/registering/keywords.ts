/** Keywords as typed, separated by commas. */
export const keywordsOf = (text: string): string[] =>
  text
    .split(',')
    .map((word) => word.trim())
    .filter(Boolean);
