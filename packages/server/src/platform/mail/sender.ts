import { createTransport } from 'nodemailer';
import type { Config } from '../config.ts';

export type OutgoingMail = { id: string; to: string; subject: string; html: string; text: string };
export type MailSender = { send: (mail: OutgoingMail) => Promise<void> };

/** Sends over SMTP to the configured server, or to the stand-in that the start command opens. */
export const createMailSender = (config: Pick<Config, 'smtpUrl' | 'smtpFrom'>): MailSender => {
  const transport = createTransport({
    url: config.smtpUrl ?? 'smtp://127.0.0.1:2525',
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
  };
};
