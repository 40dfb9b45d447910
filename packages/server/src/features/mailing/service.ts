import type { App, Work } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { newId } from '../../platform/db/ids.ts';
import type { MailSender } from '../../platform/mail/sender.ts';
import { composeMail, type Message } from './compose.ts';
import * as store from './store.ts';

export type { Message } from './compose.ts';

/**
 * Writes mails to people in the transaction of the act that they tell of, as each wants them: at once, held for the
 * day's summary, or not at all (Desk only). `always` is for what cannot wait, such as a link to set a password.
 */
export const notify = async (
  app: App,
  work: Work,
  personIds: readonly string[],
  message: Message,
  always = false,
): Promise<void> => {
  const receivers = await store.findReceivers(work.trx, [...new Set(personIds)]);
  for (const person of receivers) {
    if (person.mail_mode === 'desk only' && !always) continue;
    const held = person.mail_mode === 'daily' && !always;
    const { html, text } = composeMail(message, {
      receiver: person.name,
      house: work.house.name,
      baseUrl: app.config.publicUrl,
      colour: work.house.colour,
      logo: work.house.logo,
    });
    const id = newId();
    await store.insertMail(work.trx, {
      id,
      personId: person.id,
      address: person.email,
      kind: message.kind,
      subject: message.subject,
      html,
      text,
      now: work.now,
      state: held ? 'held for summary' : 'waiting',
    });
    if (!held) await app.jobs.enqueue(work.trx, 'mail.send', { mailId: id });
  }
};

/** The job that sends one mail; a server that does not answer makes the job fail and be tried again later. */
export const sendMail = async (app: App, sender: MailSender, mailId: string): Promise<void> => {
  const mail = await store.findMail(app.db, mailId);
  if (!mail || mail.state === 'sent') return;
  try {
    await sender.send({ id: mail.id, to: mail.address, subject: mail.subject, html: mail.html, text: mail.text });
    await store.markSent(app.db, mail.id, app.clock());
  } catch (error) {
    await store.markFailed(app.db, mail.id, (error as Error).message.slice(0, 300));
    throw error;
  }
};

/** Once a day: what was held for people who want one summary becomes one mail each. */
export const sendSummaries = async (app: App, actor: Parameters<App['act']>[0]): Promise<number> =>
  app.act(actor, async (work) => {
    const held = groupBy(await store.listHeld(work.trx), (mail) => mail.person_id ?? '');
    for (const [personId, mails] of held) {
      const [receiver] = await store.findReceivers(work.trx, [personId]);
      await store.closeHeld(
        work.trx,
        mails.map((mail) => mail.id),
        work.now,
      );
      if (!receiver) continue;
      const id = newId();
      const message: Message = {
        kind: 'summary',
        subject:
          mails.length === 1
            ? `${work.house.code}: one message of the day`
            : `${work.house.code}: ${mails.length} messages of the day`,
        lead: 'This happened since your last summary.',
        lines: mails.map((mail) => mail.subject),
        link: { path: '/', words: 'Open my Desk' },
      };
      const { html, text } = composeMail(message, {
        receiver: receiver.name,
        house: work.house.name,
        baseUrl: app.config.publicUrl,
      });
      await store.insertMail(work.trx, {
        id,
        personId,
        address: receiver.email,
        kind: 'summary',
        subject: message.subject,
        html,
        text,
        now: work.now,
        state: 'waiting',
      });
      await app.jobs.enqueue(work.trx, 'mail.send', { mailId: id });
    }
    return held.size;
  });

export const toMailRow = (mail: store.MailRecord) => ({
  id: mail.id,
  to: mail.address,
  subject: mail.subject,
  kind: mail.kind,
  createdAt: mail.created_at.toISOString(),
  state: mail.state,
  sentAt: mail.sent_at?.toISOString() ?? null,
  error: mail.error,
});

export const listMails = async (app: App, before: string | undefined) =>
  (await store.listMails(app.db, before)).map(toMailRow);

export const findMail = (app: App, id: string) => store.findMail(app.db, id);

/** Takes mails that left long ago out of the list of outgoing mail. */
export const purgeMails = (app: App, before: Date) => store.deleteBefore(app.db, before);
