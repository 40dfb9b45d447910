import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createTransport } from 'nodemailer';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { startMailIntake } from '../features/intake/index.ts';
import { listIncomingFiles, takeIncomingFile } from '../features/intake/service.ts';
import { firstRow } from '../platform/db/connect.ts';
import { withOrganisation } from './withOrganisation.ts';

const organisation = withOrganisation();
const TO = 'documents@test.example';

let intake: Awaited<ReturnType<typeof startMailIntake>>;
let from = '';
beforeAll(async () => {
  intake = await startMailIntake(organisation.app, TO, 0);
  from =
    (await firstRow<{ email: string }>(organisation.app.db, `select email from people where name = 'Author'`))?.email ??
    '';
});
afterAll(() => intake.stop());

type Mail = Parameters<ReturnType<typeof createTransport>['sendMail']>[0];
/** Sends a mail to the intake over SMTP; the answer of the server, also where it refuses. */
const send = async (mail: Mail): Promise<string> => {
  const transport = createTransport({ host: '127.0.0.1', port: intake.port, secure: false, ignoreTLS: true });
  try {
    return (
      await transport.sendMail({ from, to: TO, text: 'As agreed.', date: new Date('2026-11-24T08:00:00Z'), ...mail })
    ).response;
  } catch (error) {
    return (error as Error).message;
  } finally {
    transport.close();
  }
};
const list = async () =>
  (await listIncomingFiles(organisation.app, await organisation.as('author'), false)).incomingFiles;

test('the files of a mail wait under its sender and subject, and are registered from there', async () => {
  const said = await send({
    subject: 'Measured at tower 6/7',
    html: '<p>See both. <img src="cid:logo"></p>',
    attachments: [
      { filename: 'slip.md', content: '# Slip force of the grip\nLimit: 12 kN\n' },
      { filename: 'slip.md', content: '# Another\n' },
      { filename: 'logo.png', content: Buffer.from('89504e470d0a1a0a', 'hex'), cid: 'logo' },
    ],
  });
  expect(said).toMatch(/^250 /);
  const files = await list();
  expect(files.map(({ path, state }) => [path, state])).toEqual([
    [`${from.toLowerCase()}/Measured at tower 6 7/slip (2).md`, 'waiting'],
    [`${from.toLowerCase()}/Measured at tower 6 7/slip.md`, 'waiting'],
  ]);
  const file = files.find(({ name }) => name === 'slip.md');
  const upload = await takeIncomingFile(organisation.app, await organisation.as('author'), file?.id ?? '');
  const made = await organisation.registerAs('author', {
    typeId: organisation.types.get('PRO') ?? '',
    folderId: organisation.folders.get('1/a') ?? '',
    title: 'Slip force',
    metadata: {},
    uploadId: upload.id,
    incomingFileId: file?.id ?? '',
  });
  // What a rule for arriving files looks at.
  const event = await firstRow<{ text: string }>(
    organisation.app.db,
    `select text from events where kind = 'document.registered' order by seq desc limit 1`,
  );
  expect(event?.text).toContain(made.number);
  expect(event?.text).toContain(`"arrived":"${file?.path}"`);
});

test('a mail that is sent again brings nothing twice; one without files waits itself', async () => {
  const before = (await list()).length;
  const mail = { subject: 'Only words', text: 'The lamp of cabin 9 is broken.' };
  expect(await send(mail)).toMatch(/^250 /);
  expect(await send(mail)).toMatch(/^250 /);
  const files = await list();
  expect(files.length).toBe(before + 1);
  expect(files.find(({ name }) => name === 'Only words.eml')).toMatchObject({
    mediaType: 'message/rfc822',
    state: 'waiting',
  });
});

test('a file that cannot be filed is listed with the reason, and the others of its mail are taken', async () => {
  await send({
    subject: 'Tool',
    attachments: [
      { filename: 'tool.exe', content: Buffer.from('MZ....') },
      { filename: 'fine.md', content: 'fine' },
    ],
  });
  const files = (await list()).filter(({ path }) => path.includes('/Tool/'));
  expect(files.map(({ name, state }) => [name, state])).toEqual([
    ['fine.md', 'waiting'],
    ['tool.exe', 'refused'],
  ]);
  const aside = join(organisation.app.config.intakeDir, '.refused');
  const kept = readdirSync(aside, { recursive: true })
    .map(String)
    .find((name) => name.endsWith('Tool.eml'));
  expect(readFileSync(join(aside, kept ?? ''), 'utf8')).toContain('filename=tool.exe');
});

test('mails of strangers, to other addresses and of too great a size are refused in words', async () => {
  const before = (await list()).length;
  expect(await send({ from: 'nobody@elsewhere.example', subject: 'x' })).toContain(
    'Nobody with the address nobody@elsewhere.example is known here.',
  );
  expect(await send({ to: 'others@test.example', subject: 'x' })).toContain(`Only mails to ${TO} are taken here.`);
  expect(
    await send({ subject: 'x', attachments: [{ filename: 'large.md', content: Buffer.alloc(12 * 1024 * 1024, 'a') }] }),
  ).toContain('This mail is larger than a file may be here.');
  expect((await list()).length).toBe(before);
});
