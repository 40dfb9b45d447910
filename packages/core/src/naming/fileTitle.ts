/** Where the title of a file was read. */
export type TitleSource = 'heading' | 'properties' | 'name';

/** Names that a scanner, a camera or a program gives, without meaning. */
const MEANINGLESS =
  /^(?:(?:scan|scn|img|image|pict?ure|dsc|doc|document|dokument|page|file|screenshot|untitled|unnamed|new|title|titel|book|sheet|mappe|presentation|slide|drawing)?[\s_.()-]*[\d\s_.:()-]*)$/i;
/** Titles that a printing program writes, such as `Microsoft Word - plan.docx`, and names of files. */
const BY_PROGRAM = /^(?:microsoft|libreoffice|openoffice|adobe)\b.* - |\.[a-z0-9]{2,5}$/i;

/** Whether a title read from a name says nothing, such as those that devices give. */
export const isMeaningless = (title: string): boolean => MEANINGLESS.test(title.trim());

/**
 * The title of a file: its heading, else its title property, else its name; each only where it says something.
 * A title property that a program wrote by itself (`Document1`, `Microsoft Word - plan.docx`) does not count.
 */
export const chooseTitle = (read: {
  heading: string;
  property: string;
  name: string;
}): { title: string; from: TitleSource } => {
  const heading = read.heading.trim();
  if (heading && !isMeaningless(heading)) return { title: heading, from: 'heading' };
  const property = read.property.trim();
  if (property && !isMeaningless(property) && !BY_PROGRAM.test(property))
    return { title: property, from: 'properties' };
  return { title: read.name, from: 'name' };
};

/** A paragraph of a text as far as its title is looked for: `title` by a title style, else its heading level. */
export type Headed = { level: number | 'title'; text: string };

/**
 * The heading that is the title of a text: a paragraph in a title style, else the only heading of the first level when no other
 * heading precedes it. Several headings of the first level are chapters. Empty where there is none.
 */
export const titleHeading = (headings: readonly Headed[]): string => {
  const titled = headings.find(({ level, text }) => level === 'title' && text.trim());
  if (titled) return titled.text.trim();
  const first = headings.filter(({ level, text }) => level === 1 && text.trim());
  const [only] = first;
  return first.length === 1 && only === headings[0] && only ? only.text.trim() : '';
};

/** The headings of a Markdown text (CommonMark 0.31: ATX and setext), without those in code blocks. */
export const markdownHeadings = (text: string): Headed[] => {
  const headings: Headed[] = [];
  let fence = '';
  let before = '';
  for (const line of text.replace(/^---\n[\s\S]*?\n---\n/, '').split(/\r?\n/)) {
    const mark = /^ {0,3}(`{3,}|~{3,})/.exec(line)?.[1];
    if (mark && (fence === '' || (mark.startsWith(fence[0] as string) && mark.length >= fence.length))) {
      fence = fence === '' ? mark : '';
      before = '';
      continue;
    }
    if (fence) continue;
    const atx = /^ {0,3}(#{1,6})[ \t]+(.*?)(?:[ \t]+#+)?[ \t]*$/.exec(line);
    const underline = /^ {0,3}(=+|-+)[ \t]*$/.exec(line)?.[1];
    if (atx) headings.push({ level: (atx[1] ?? '').length, text: plain(atx[2] ?? '') });
    else if (underline && before.trim()) headings.push({ level: underline[0] === '=' ? 1 : 2, text: plain(before) });
    before = atx || underline ? '' : line;
  }
  return headings;
};

/** Words of a heading without the marks of emphasis, code and links. */
const plain = (text: string): string =>
  text
    .replace(/!?\[([^\]]*)\]\([^)]*\)/g, '$1')
    .replace(/[*_`~]+/g, (mark, at: number, whole: string) => (/\w_\w/.test(whole.slice(at - 1, at + 2)) ? mark : ''))
    .trim();
