import type { App, UnitOfWork } from '../../platform/app.ts';
import { groupBy } from '../../platform/collections.ts';
import { newId } from '../../platform/db/ids.ts';
import type { MailSender } from '../../platform/mail/sender.ts';
import { refused } from '../../platform/refused.ts';
import { isWithheld, toPlace, viewerOf } from '../access/index.ts';
import { CUT_OUT, composeMail, type Message, SECRET } from './compose.ts';
import * as store from './store.ts';

export type { Message } from './compose.ts';
export { SECRET } from './compose.ts';

/** Minutes to the next try after each time that the mail server did not take a mail: for five days in all. */
const PAUSES = [1, 5, 15, 60, 240, 720, 1440, 1440, 1440, 1440];
const MINUTE = 60_000;

const write = async (
  app: App,
  work: UnitOfWork,
  to: { personId: string | null; name: string; address: string; held: boolean },
  message: Message,
): Promise<void> => {
  // A first administrator has no address until the first steps: then there is nobody to send to.
  if (!to.address) return;
  const { html, text } = composeMail(message, {
    receiver: to.name,
    organisation: work.organisation.name,
    baseUrl: app.config.publicUrl,
    colour: work.organisation.colour,
    logo: work.organisation.logo,
  });
  const id = newId();
  await store.insertMail(work.trx, {
    id,
    personId: to.personId,
    address: to.address,
    kind: message.kind,
    subject: message.subject,
    html,
    text,
    now: work.now,
    state: to.held ? 'held for summary' : 'waiting',
    secret: message.secret ? app.secrets.hide(message.secret) : null,
  });
  if (!to.held) await app.jobs.enqueue(work.trx, 'mail.send', { mailId: id });
};

/**
 * Writes mails to people in the transaction of the command that they tell of, as each wants them: at once, held for the
 * day's summary, or not at all (Desk only). `always` is for what cannot wait, such as a link to set a password.
 */
export const notify = async (
  app: App,
  work: UnitOfWork,
  personIds: readonly string[],
  message: Message,
  always = false,
): Promise<void> => {
  const receivers = await unlessWithheld(
    work,
    message.about,
    await store.findReceivers(work.trx, [...new Set(personIds)]),
  );
  for (const person of receivers) {
    if (person.mail_mode === 'desk only' && !always) continue;
    const held = person.mail_mode === 'daily' && !always;
    await write(app, work, { personId: person.id, name: person.name, address: person.email, held }, message);
  }
};

/** Those of some receivers who may know of a document: no mail mentions a document to a person from whom it is withheld. */
const unlessWithheld = async <P extends { id: string; outside: boolean }>(
  work: UnitOfWork,
  documentId: string | undefined,
  receivers: P[],
): Promise<P[]> => {
  const place = documentId && (await store.findPlace(work.trx, documentId));
  // Most documents are withheld from nobody: then no rights need to be checked.
  if (!place || !(place.withholds || receivers.some((person) => person.outside))) return receivers;
  const allowed: P[] = [];
  for (const person of receivers)
    if (!(await isWithheld(work.trx, await viewerOf(work.trx, person.id, work.day), toPlace(place), work.day)))
      allowed.push(person);
  return allowed;
};

/** Writes a mail to each of many people in a few statements, whatever their number: one message for one person each. */
export const notifyEach = async (
  app: App,
  work: UnitOfWork,
  messages: readonly { personId: string; message: Message }[],
): Promise<void> => {
  const found = await store.findReceivers(
    work.trx,
    messages.map((one) => one.personId),
  );
  const about = new Set(messages.map((one) => one.message.about));
  const receivers = new Map(
    (await unlessWithheld(work, about.size === 1 ? [...about][0] : undefined, found)).map((person) => [
      person.id,
      person,
    ]),
  );
  const written = messages.flatMap(({ personId, message }) => {
    const person = receivers.get(personId);
    if (!person || person.mail_mode === 'desk only') return [];
    const { html, text } = composeMail(message, {
      receiver: person.name,
      organisation: work.organisation.name,
      baseUrl: app.config.publicUrl,
      colour: work.organisation.colour,
      logo: work.organisation.logo,
    });
    const { kind, subject } = message;
    const state = person.mail_mode === 'daily' ? 'held for summary' : 'waiting';
    return [{ id: newId(), personId, address: person.email, kind, subject, html, text, state }];
  });
  await store.insertMails(work.trx, written, work.now);
  await app.jobs.enqueueMany(
    work.trx,
    'mail.send',
    written.flatMap((mail) => (mail.state === 'waiting' ? [{ mailId: mail.id }] : [])),
  );
};

/** Writes a mail to addresses, also of people without an account. */
export const mailAddresses = async (
  app: App,
  work: UnitOfWork,
  addresses: readonly string[],
  message: Message,
): Promise<void> => {
  for (const address of new Set(addresses.filter(Boolean)))
    await write(app, work, { personId: null, name: address, address, held: false }, message);
};

/**
 * The job that sends one mail. A server that does not take it makes it wait for its next try, for days; after the last one it is shown
 * to the administrator, who may send it again. The secret of its link leaves the database with the mail.
 */
export const sendMail = async (app: App, sender: Pick<MailSender, 'send'>, mailId: string): Promise<void> => {
  const mail = await store.findMail(app.db, mailId);
  if (!mail || mail.state === 'sent') return;
  const secret = mail.secret ? app.secrets.reveal(mail.secret) : CUT_OUT;
  const whole = (body: string) => body.replaceAll(SECRET, secret);
  try {
    await sender.send({
      id: mail.id,
      to: mail.address,
      subject: mail.subject,
      html: whole(mail.html),
      text: whole(mail.text),
    });
  } catch (error) {
    const pause = PAUSES[mail.tries];
    await store.markFailed(app.db, {
      id: mail.id,
      error: (error as Error).message.slice(0, 300),
      next: pause === undefined ? null : new Date(app.clock().getTime() + pause * MINUTE),
    });
    app.log.warn({ mail: mail.id, reason: (error as Error).message.slice(0, 200) }, 'a mail could not be sent');
    return;
  }
  await store.markSent(app.db, mail.id, app.clock());
};

/** Scheduled: every mail whose next try is due, also after a standstill. */
export const resumeMails = (app: App): Promise<number> =>
  app.db.transaction(async (trx) => {
    const due = await store.takeDue(trx, app.clock());
    await app.jobs.enqueueMany(
      trx,
      'mail.send',
      due.map(({ id }) => ({ mailId: id })),
    );
    return due.length;
  });

/** Makes failed mails wait to be sent again: one, or all. Answers how many. */
export const sendAgain = async (app: App, work: UnitOfWork, id: string | null): Promise<number> => {
  const again = await store.tryAgain(work.trx, id);
  if (id && again.length === 0) throw refused((await store.findMail(work.trx, id)) ? 'mail_not_failed' : 'not_found');
  await app.jobs.enqueueMany(
    work.trx,
    'mail.send',
    again.map((mail) => ({ mailId: mail.id })),
  );
  if (again.length > 0) work.record({ kind: 'mail.sent-again', subject: {}, payload: { mails: again.length } });
  return again.length;
};
export const countFailed = store.countFailed;

/** Once a day: what was held for people who want one summary becomes one mail each. */
export const sendSummaries = async (app: App, actor: Parameters<App['command']>[0]): Promise<number> =>
  app.command(actor, async (work) => {
    const held = groupBy(await store.listBlocked(work.trx), (mail) => mail.person_id ?? '');
    for (const [personId, mails] of held) {
      const [receiver] = await store.findReceivers(work.trx, [personId]);
      await store.closeBlocked(
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
            ? `${work.organisation.code}: one message today`
            : `${work.organisation.code}: ${mails.length} messages today`,
        lead: 'Since your last summary:',
        lines: mails.map((mail) => mail.subject),
        link: { path: '/', label: 'Open my Desk' },
      };
      const { html, text } = composeMail(message, {
        receiver: receiver.name,
        organisation: work.organisation.name,
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
        secret: null,
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
  tries: mail.tries,
  nextTryAt: mail.next_try_at?.toISOString() ?? null,
});

/** A mail as it is kept: where a link had a secret, that is cut out. */
export const keptBody = ({ html, text }: Pick<store.MailRecord, 'html' | 'text'>) => ({
  html: html.replaceAll(SECRET, CUT_OUT),
  text: text.replaceAll(SECRET, CUT_OUT),
  redacted: html.includes(SECRET) || html === '',
});

export const listMails = async (app: App, before: string | undefined) =>
  (await store.listMails(app.db, before)).map(toMailRow);

export const findMail = (app: App, id: string) => store.findMail(app.db, id);

/** Takes mails that left long ago out of the list of outgoing mail. */
export const purgeMails = (app: App, before: Date) => store.deleteBefore(app.db, before);
