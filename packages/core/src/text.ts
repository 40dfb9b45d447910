/** How many bytes a text takes in UTF-8; a lone surrogate counts as its replacement character (3). */
export const utf8Length = (text: string): number => {
  let length = 0;
  for (const character of text) {
    const code = character.codePointAt(0) as number;
    length += code < 0x80 ? 1 : code < 0x800 ? 2 : code < 0x10000 ? 3 : 4;
  }
  return length;
};

/** The form in which names and numbers are compared: NFC, no case, runs of blanks as one. */
export const foldText = (text: string): string =>
  text.normalize('NFC').trim().replace(/\s+/gu, ' ').toLocaleLowerCase('en');
