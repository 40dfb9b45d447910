/** Text as it was read from a picture, with how sure the reader is of its words (0 to 100). */
export type Scanned = { text: string; words: number; confidence: number };

/** Less sure than this, a word is noise of the paper. */
const LEAST = 35;

/**
 * Reads the table that Tesseract writes of a page (`tsv`): one line per word with its block, paragraph and line, and how sure it is.
 * Words it is not sure of at all are left out; lines and paragraphs are kept.
 */
export const readScanned = (tsv: string): Scanned => {
  const lines = new Map<string, { paragraph: string; words: string[] }>();
  let [words, sum] = [0, 0];
  for (const row of tsv.split(/\r?\n/).slice(1)) {
    const cells = row.split('\t');
    const [level, , block, paragraph, line] = cells;
    const confidence = Number(cells[10]);
    const word = (cells[11] ?? '').trim();
    if (level !== '5' || !word || !(confidence >= LEAST)) continue;
    const key = `${block}.${paragraph}.${line}`;
    const known = lines.get(key) ?? { paragraph: `${block}.${paragraph}`, words: [] };
    known.words.push(word);
    lines.set(key, known);
    words++;
    sum += confidence;
  }
  let text = '';
  let before: string | undefined;
  for (const { paragraph, words: own } of lines.values()) {
    text += `${before === undefined ? '' : before === paragraph ? '\n' : '\n\n'}${own.join(' ')}`;
    before = paragraph;
  }
  return { text, words, confidence: words ? sum / words : 0 };
};
