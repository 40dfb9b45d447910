import { readFile } from 'node:fs/promises';
import { type ParsedMail, simpleParser } from 'mailparser';
import sanitizeHtml from 'sanitize-html';

/** Structure and words of a mail: nothing runs, and nothing is fetched, pictures from elsewhere least of all. */
const CLEAN: sanitizeHtml.IOptions = {
  allowedTags: sanitizeHtml.defaults.allowedTags.filter((tag) => tag !== 'img'),
  allowedAttributes: { a: ['href'], td: ['colspan', 'rowspan'], th: ['colspan', 'rowspan'] },
  allowedSchemes: ['http', 'https', 'mailto'],
};
const asHtml = (text: string) => text.replace(/[&<>]/g, (sign) => `&#${sign.charCodeAt(0)};`);

export type ReadMail = {
  from: string;
  to: string;
  date: string | null;
  subject: string;
  html: string;
  /** `inText`: a picture that its text shows. */
  attachments: { n: number; name: string; size: number; inText: boolean }[];
};

const parse = async (path: string): Promise<ParsedMail> =>
  simpleParser(await readFile(path), { skipImageLinks: true, skipHtmlToText: true });
const nameOf = (name: string | undefined, n: number) => name ?? `attachment ${n + 1}`;

/** A mail (RFC 5322) as it is shown. */
export const readMail = async (path: string): Promise<ReadMail> => {
  const mail = await parse(path);
  const to = Array.isArray(mail.to) ? mail.to.map((one) => one.text).join(', ') : (mail.to?.text ?? '');
  return {
    from: mail.from?.text ?? '',
    to,
    date: mail.date?.toISOString() ?? null,
    subject: mail.subject ?? '',
    html: mail.html ? sanitizeHtml(mail.html, CLEAN) : `<p>${asHtml(mail.text ?? '').replace(/\n/g, '<br />')}</p>`,
    attachments: mail.attachments.map((one, n) => ({
      n,
      name: nameOf(one.filename, n),
      size: one.size,
      inText: one.related === true,
    })),
  };
};

/** One attachment of a mail, with its name; undefined where the mail has none of that number. */
export const readAttachment = async (
  path: string,
  n: number,
): Promise<{ bytes: Uint8Array; name: string } | undefined> => {
  const attachment = (await parse(path)).attachments[n];
  return attachment && { bytes: attachment.content, name: nameOf(attachment.filename, n) };
};

/** The words of a mail: its subject and its text, from its HTML where it has no other. */
export const wordsOfMail = async (path: string): Promise<string> => {
  const mail = await parse(path);
  const text = mail.text ?? (mail.html ? plainText(mail.html) : '');
  return `${mail.subject ?? ''}\n${text}`;
};

const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'", nbsp: ' ' };

/** HTML as text, read once from its beginning to its end: a line for each block, nothing of scripts and styles. */
const plainText = (html: string): string =>
  sanitizeHtml(html.replace(/<(\/?(?:p|div|br|tr|li|h[1-6]|table|ul|ol|blockquote))\b/gi, '\n<$1'), {
    allowedTags: [],
    allowedAttributes: {},
  })
    .replace(/&(?:(amp|lt|gt|quot|apos|nbsp)|#(\d{1,6}));/g, (whole, name: string, code: string) =>
      name ? (ENTITIES[name] ?? whole) : String.fromCodePoint(Math.min(Number(code), 0x10ffff)),
    )
    .replace(/[ \t]+/g, ' ')
    .replace(/\n[ \n]*/g, '\n')
    .trim();
