/** The character that a code means in the texts of a drawing. */
const SIGNS: Readonly<Record<string, string>> = { c: 'Ø', d: '°', p: '±', '%': '%' };

/** The words of a TEXT or MTEXT value without its formatting. */
export const plainDrawingText = (value: string): string =>
  value
    .replace(/%%([cdp%])/gi, (_, sign: string) => SIGNS[sign.toLowerCase()] ?? '')
    .replace(/%%[uoUO]/g, '')
    .replace(/\\U\+([0-9a-f]{4})/gi, (_, code: string) => String.fromCharCode(Number.parseInt(code, 16)))
    // Stacked fractions are read as one writes them.
    .replace(/\\S([^;]*?)[#^/]([^;]*);/g, '$1/$2')
    .replace(/\\[pP]([^;\\{}]{0,40};)?/g, (found) => (found[1] === 'P' ? `\n${found.slice(2)}` : ' '))
    .replace(/\\~/g, ' ')
    .replace(/\\[ACFHQTWfc][^;\\]*;/g, '')
    .replace(/\\[LlOoKk]/g, '')
    .replace(/(?<!\\)[{}]/g, '')
    .replace(/\\([\\{}])/g, '$1');

const WITH_WORDS = /^(TEXT|MTEXT|ATTRIB|ATTDEF|DIMENSION|MULTILEADER|TOLERANCE)$/;

/**
 * Reads the words of a DXF drawing line by line, so that a large one is never in memory as a whole: texts, paragraphs, attributes of
 * blocks (title blocks hold theirs there) and dimensions with a text of their own. Pairs of lines as the format writes them: group 1 is
 * a text, group 3 of a paragraph what comes before its last piece.
 */
export const createDxfReader = (): { take: (line: string) => void; words: readonly string[] } => {
  const words: string[] = [];
  let code: string | undefined;
  let entity = '';
  let before = '';
  const takePair = (group: string, value: string) => {
    if (group === '0') {
      entity = value.trim();
      before = '';
    } else if (!WITH_WORDS.test(entity)) return;
    else if (group === '3' && entity === 'MTEXT') before += value;
    else if (group === '1') {
      // A dimension without a text of its own shows its measure, by <> or by an empty text.
      const found = plainDrawingText(before + value).trim();
      if (found && found !== '<>') words.push(...found.split('\n').flatMap((line) => line.trim() || []));
      before = '';
    }
  };
  return {
    words,
    take: (line) => {
      if (code === undefined) code = line.trim();
      else {
        takePair(code, line);
        code = undefined;
      }
    },
  };
};

/** The words of a DXF drawing that is at hand, in its order, one line each. */
export const dxfWords = (text: string): readonly string[] => {
  const reader = createDxfReader();
  for (const line of text.split(/\r?\n/)) reader.take(line);
  return reader.words;
};
