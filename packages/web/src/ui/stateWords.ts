/** How the organisation words its states; set at sign-in, because many small parts use the words. */
let ownWords: Readonly<Record<string, string>> = {};
export const setStateWords = (words: Readonly<Record<string, string>>): void => {
  ownWords = words;
};

/** State of a revision in words. */
export const stateWords = (state: string): string => ownWords[state] ?? state.charAt(0).toUpperCase() + state.slice(1);
