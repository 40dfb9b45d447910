/** A mail as it arrived (RFC 5322). */
export const makeMail = (from: string, subject: string, text: string): Buffer =>
  Buffer.from(
    `From: ${from}\r\nTo: quality@tarnholt.example\r\nSubject: ${subject}\r\nDate: Mon, 12 Oct 2026 09:12:00 +0200\r\nMIME-Version: 1.0\r\nContent-Type: text/plain; charset=utf-8\r\n\r\n${text}\r\n`,
  );
