/** What a mail says: one lead sentence, metadata or words, and the link that opens the task. */
export type Message = {
  kind: string;
  /** The document it is about: a person from whom it is withheld gets no mail. */
  about?: string;
  subject: string;
  lead: string;
  lines?: readonly string[];
  quote?: string;
  link: { path: string; label: string };
  /** What replaces `SECRET` in the mail that leaves, and nowhere else. */
  secret?: string;
};

/** Marks the place of a secret in a link: the body that is kept never holds the secret itself. */
export const SECRET = '0secret0';
/** The text shown in its place. */
export const CUT_OUT = '…';

const escapeHtml = (text: string) => text.replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`);

/** The same message as HTML and as plain text. Styles are inline, because mail programs drop style sheets. */
export const composeMail = (
  message: Message,
  about: { receiver: string; organisation: string; baseUrl: string; colour?: string; logo?: string | null },
): { html: string; text: string } => {
  const url = new URL(message.link.path, about.baseUrl).href;
  const lines = message.lines ?? [];
  const text = [
    `${about.receiver},`,
    '',
    message.lead,
    ...(message.quote ? ['', ...message.quote.split('\n').map((line) => `> ${line}`)] : []),
    ...(lines.length ? ['', ...lines.map((line) => `- ${line}`)] : []),
    '',
    `${message.link.label}: ${url}`,
    '',
    `${about.organisation} · Kanonos`,
  ].join('\n');
  const colour = about.colour || '#12222a';
  const logo = about.logo
    ? `<img src="${escapeHtml(new URL(`/api/organisation/logo?v=${about.logo.slice(0, 8)}`, about.baseUrl).href)}" alt="" height="28" style="vertical-align:middle;margin-right:10px">`
    : '';
  const html = `<!doctype html><html lang="en"><body style="margin:0;padding:24px;background:#e9eef0;font:15px/1.5 Arial,sans-serif;color:#12222a">
<table role="presentation" cellpadding="0" cellspacing="0" width="100%" style="max-width:560px;margin:0 auto;background:#fff;border:2px solid ${colour}"><tr><td style="padding:10px 18px;background:${colour};color:#fff;font-size:13px;letter-spacing:2px">${logo}${escapeHtml(about.organisation.toUpperCase())}</td></tr>
<tr><td style="padding:18px"><p style="margin:0 0 10px;color:#465b66">${escapeHtml(about.receiver)},</p><p style="margin:0 0 12px">${escapeHtml(message.lead)}</p>
${message.quote ? `<blockquote style="margin:0 0 12px;padding:8px 12px;border-left:3px solid #7d4f08;background:#faeed3">${escapeHtml(message.quote).replace(/\n/g, '<br>')}</blockquote>` : ''}
${lines.length ? `<ul style="margin:0 0 12px;padding-left:18px">${lines.map((line) => `<li>${escapeHtml(line)}</li>`).join('')}</ul>` : ''}
<p style="margin:16px 0 0"><a href="${escapeHtml(url)}" style="display:inline-block;padding:9px 16px;background:#0b5364;color:#fff;text-decoration:none">${escapeHtml(message.link.label)}</a></p></td></tr></table></body></html>`;
  return { html, text };
};
