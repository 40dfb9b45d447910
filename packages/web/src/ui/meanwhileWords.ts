const MOST_NAMED = 4;

/** A place of a form in words: `nextReview` is next review, `metadata.load` is load. */
const plain = (place: string): string =>
  place
    .replace(/^(metadata|about)\./, '')
    .replace(/Ids?$/, '')
    .replaceAll('.', ' › ')
    .replace(/[A-Z]/g, (letter) => ` ${letter.toLowerCase()}`);

const listed = (names: readonly string[]): string =>
  names.length > MOST_NAMED
    ? `${names.slice(0, MOST_NAMED - 1).join(', ')} and ${names.length - MOST_NAMED + 1} more`
    : names.join(', ').replace(/, ([^,]*)$/, ' and $1');

/** The changes by somebody else to the edited object, and the conflicts with one's own. */
export const meanwhileWords = (
  { theirs, both }: { theirs: readonly string[]; both: readonly string[] },
  words: (place: string) => string = plain,
): string => {
  const named = (places: readonly string[]) => listed([...new Set(places.map(words))]);
  const clash = both.length > 0 ? ` You also changed ${named(both)}.` : '';
  return `Somebody else changed ${named(theirs)} in the meantime.${clash} What you typed is still here.`;
};
