import { readFile } from 'node:fs/promises';
import mammoth from 'mammoth';
import markdownIt from 'markdown-it';
import sanitizeHtml from 'sanitize-html';

const CLEAN: sanitizeHtml.IOptions = {
  allowedTags: [...sanitizeHtml.defaults.allowedTags, 'img', 'h1', 'h2', 'del', 'ins'],
  allowedAttributes: {
    a: ['href'],
    img: ['src', 'alt'],
    td: ['colspan', 'rowspan'],
    th: ['colspan', 'rowspan'],
    ol: ['start'],
  },
  allowedSchemes: ['http', 'https', 'mailto'],
  allowedSchemesByTag: { img: ['data'] },
  // A picture is inside the text or is left out: an address, also one of this server, would be fetched unasked.
  exclusiveFilter: ({ tag, attribs }) => tag === 'img' && !attribs.src?.startsWith('data:image/'),
};
/** Word's title is the one heading of the first order; its headings follow below. */
const STYLES = [
  "p[style-name='Title'] => h1:fresh",
  "p[style-name='heading 1'] => h2:fresh",
  "p[style-name='heading 2'] => h3:fresh",
  "p[style-name='heading 3'] => h4:fresh",
];

/** Reads in a time that grows with the length of the text (CommonMark 0.31), whatever is nested or left open in it. */
const markdown = markdownIt({ html: true, linkify: false });

/** Markdown as clean reading text: structure and words, nothing that runs. */
export const cleanMarkdown = async (text: string): Promise<string> => sanitizeHtml(markdown.render(text), CLEAN);

/** In place of a picture that nobody wants to see: it is not even unpacked. */
const NO_PICTURE = mammoth.images.imgElement(async () => ({ src: '' }));

/** A Word or Markdown file as clean reading text, with its pictures unless they are not wanted. */
export const readingTextOf = async (path: string, show: 'html' | 'markdown', pictures = true): Promise<string> =>
  show === 'html'
    ? sanitizeHtml(
        (await mammoth.convertToHtml({ path }, { styleMap: STYLES, ...(pictures ? {} : { convertImage: NO_PICTURE }) }))
          .value,
        CLEAN,
      )
    : cleanMarkdown(await readFile(path, 'utf8'));
