import { createReadStream } from 'node:fs';
import { copyFile, mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { SMTPServer, type SMTPServerDataStream } from 'smtp-server';
import type { Actor, App } from '../../platform/app.ts';
import { newId } from '../../platform/db/ids.ts';
import { cleanName } from '../../platform/http/upload.ts';
import { parseBehind } from '../../platform/parsing/index.ts';
import { refused } from '../../platform/refused.ts';
import { keepIncoming, REFUSED, type StoredIncoming, storeIncoming } from './keep.ts';
import { nameOfSender } from './store.ts';

const SYSTEM_INTAKE: Actor = { id: null, signInName: 'system.intake', name: 'Intake by mail' };
/** What a mail weighs more than the files in it: they are written in letters (base64, RFC 2045 section 6.8). */
const MAIL_TO_FILE = 1.4;

/** An answer of the protocol to what is not taken (RFC 5321 section 4.2). */
const answer = (code: number, words: string): Error => Object.assign(new Error(words), { responseCode: code });

/** Names that no two files of one mail share: `photo.jpg`, `photo (2).jpg`. */
const namesOnce = (names: readonly string[]): string[] => {
  const used = new Map<string, number>();
  return names.map((given) => {
    const name = cleanName(given);
    const times = (used.get(name) ?? 0) + 1;
    used.set(name, times);
    return times === 1 ? name : name.replace(/(\.[^.]*)?$/, ` (${times})$1`);
  });
};

/**
 * Takes the files of a mail, or the mail itself where it has none, all of them or none: what was taken is told to the mail server
 * when it is safe, so that one that is cut off is sent again, and one that is sent again is known by its day and its names.
 */
const takeMail = async (app: App, from: string, mail: { sha256: string; size: number }): Promise<number> => {
  const path = app.content.pathOf(mail.sha256);
  const { subject, date, attachments } = await parseBehind('mail', path);
  const files = attachments.filter(({ inText }) => !inText);
  const title = cleanName(subject.replace(/[/\\]/g, ' ').trim() || 'Mail');
  const names = namesOnce(files.map(({ name }) => name));
  const taken: { path: string; size: number; stored: StoredIncoming }[] = [];
  for (const [place, { n, size }] of files.entries()) {
    const bytes = (await parseBehind('attachment', path, n))?.bytes ?? new Uint8Array();
    const name = names[place] ?? '';
    const stored = await storeIncoming(app, name, Readable.from([Buffer.from(bytes)]));
    taken.push({ path: `${from}/${title}/${name}`, size, stored });
  }
  if (files.length === 0) {
    const name = `${title}.eml`;
    const stored = await storeIncoming(app, name, createReadStream(path));
    taken.push({ path: `${from}/${name}`, size: mail.size, stored });
  }
  // A file that cannot be filed is kept in its mail, unchanged.
  if (taken.some(({ stored }) => 'why' in stored)) {
    const aside = join(app.config.intakeDir, REFUSED, mail.sha256.slice(0, 8));
    await mkdir(aside, { recursive: true });
    await copyFile(path, join(aside, `${title}.eml`));
  }
  const sentAt = new Date(date ?? app.clock());
  return app.command(SYSTEM_INTAKE, async (work) => {
    let fresh = 0;
    for (const one of taken)
      if (await keepIncoming(app, work, { id: newId(), writtenAt: sentAt, from, ...one })) fresh++;
    return fresh;
  });
};

/** Reads a mail whole, within what files and their letters may weigh, and takes its files. */
const receive = async (app: App, from: string, stream: SMTPServerDataStream): Promise<void> => {
  const limit = Math.ceil((await app.organisation()).uploadLimit * MAIL_TO_FILE);
  const mail = await app.content.put(stream, limit);
  if (mail.size === 0) throw refused('file_empty');
  await takeMail(app, from, mail);
};

/**
 * Takes mails over SMTP (RFC 5321) for one address: the files in them wait under Incoming. Only mails from the address of somebody who
 * is known to the organisation are taken; the mail server of the organisation, which hands them over, says who sent them.
 */
export const startMailIntake = async (
  app: App,
  address: string,
  port: number,
): Promise<{ port: number; stop: () => Promise<void> }> => {
  const server = new SMTPServer({
    banner: 'Kanonos',
    disabledCommands: ['AUTH', 'STARTTLS'],
    disableReverseLookup: true,
    maxClients: 20,
    onMailFrom: ({ address: from }, _session, done) => {
      nameOfSender(app.db, from).then(
        (name) => done(name ? null : answer(550, `Nobody with the address ${from} is known here.`)),
        () => done(answer(451, 'The sender cannot be looked up now. Try again later.')),
      );
    },
    onRcptTo: ({ address: to }, _session, done) =>
      done(to.toLowerCase() === address.toLowerCase() ? null : answer(550, `Only mails to ${address} are taken here.`)),
    onData: (stream, { envelope }, done) => {
      const from = envelope.mailFrom ? envelope.mailFrom.address.toLowerCase() : '';
      receive(app, from, stream).then(
        () => done(null, 'The files of this mail wait to be registered.'),
        (error: Error & { refusals?: { code: string }[] }) => {
          // The rest of a mail that is too large is read and forgotten, so that its sender hears why.
          stream.resume();
          const code = error.refusals?.[0]?.code;
          app.log.warn({ from, reason: error.message }, 'a mail could not be taken');
          if (code === 'file_too_large') done(answer(552, 'This mail is larger than a file may be here.'));
          else if (code === 'file_empty') done(answer(554, 'This mail is empty.'));
          else done(answer(451, 'This mail cannot be taken now. Try again later.'));
        },
      );
    },
  });
  server.on('error', (error) => app.log.warn({ reason: error.message }, 'intake by mail'));
  await new Promise<void>((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, app.config.host, () => resolve());
  });
  const at = server.server.address();
  return {
    port: typeof at === 'object' && at ? at.port : port,
    stop: () => new Promise((resolve) => server.close(() => resolve())),
  };
};
