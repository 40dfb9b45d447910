import { createTransport } from 'nodemailer';
import type { Config } from '../config.ts';

export type OutgoingMail = { id: string; to: string; subject: string; html: string; text: string };
export type MailSender = {
  send: (mail: OutgoingMail) => Promise<void>;
  /** Connects and signs in without sending. @throws with the server's words */
  verify: () => Promise<void>;
  close: () => void;
};
export type MailServer = Pick<Config, 'smtpUrl' | 'smtpFrom'> & {
  /** Gives up where the server does not offer to encrypt. */
  requireTls?: boolean;
  user?: string;
  password?: string;
};

/** The usual port of an address that names none: encrypted from the first byte, or not (RFC 8314). */
const PORTS: Record<string, number> = { 'smtps:': 465, 'smtp:': 587 };

/** Host, port, encryption and account of an address. Beside an address the library would leave every other option out of account. */
const partsOf = (smtpUrl: string) => {
  const { protocol, hostname, port, username, password } = new URL(smtpUrl);
  return {
    host: hostname,
    port: Number(port) || PORTS[protocol] || 25,
    secure: protocol === 'smtps:',
    ...(username ? { auth: { user: decodeURIComponent(username), pass: decodeURIComponent(password) } } : {}),
  };
};

/** Sends over SMTP to the configured server, or to the stand-in that the start command opens. */
export const createMailSender = (config: MailServer): MailSender => {
  const transport = createTransport({
    ...partsOf(config.smtpUrl ?? 'smtp://127.0.0.1:2525'),
    ...(config.requireTls ? { requireTLS: true } : {}),
    ...(config.user ? { auth: { user: config.user, pass: config.password ?? '' } } : {}),
    connectionTimeout: 8000,
    greetingTimeout: 8000,
    socketTimeout: 15_000,
  });
  return {
    send: async (mail) => {
      await transport.sendMail({
        from: config.smtpFrom,
        to: mail.to,
        subject: mail.subject,
        html: mail.html,
        text: mail.text,
        messageId: `<${mail.id}@kanonos>`,
      });
    },
    verify: async () => {
      await transport.verify();
    },
    close: () => transport.close(),
  };
};
