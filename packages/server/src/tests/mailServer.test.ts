import { SMTPServer } from 'smtp-server';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { currentSender, removeMailServer, saveMailServer } from '../features/mailing/index.ts';
import { setupState } from '../features/setup/service.ts';
import { rows } from '../platform/db/connect.ts';
import { codeOf, openOrganisation, type TestOrganisation } from './organisation.ts';

let organisation: TestOrganisation;
let server: SMTPServer;
let port = 0;
const taken: { from: string; user: string }[] = [];

beforeAll(async () => {
  organisation = await openOrganisation();
  server = new SMTPServer({
    disabledCommands: ['STARTTLS'],
    allowInsecureAuth: true,
    onAuth: ({ username, password }, _session, done) =>
      password === 'right' ? done(null, { user: username }) : done(new Error('Wrong user or password')),
    onData: (stream, session, done) => {
      stream.resume();
      stream.on('end', () => {
        const { mailFrom } = session.envelope;
        taken.push({ from: mailFrom ? mailFrom.address : '', user: String(session.user) });
        done();
      });
    },
  });
  await new Promise<void>((resolve) => server.listen(0, '127.0.0.1', resolve));
  const address = server.server.address();
  port = typeof address === 'object' && address ? address.port : 0;
});
afterAll(async () => {
  await new Promise<void>((resolve) => server.close(resolve));
  await organisation.close();
});

const wanted = (more: Partial<Parameters<typeof saveMailServer>[2]> = {}) => ({
  host: '127.0.0.1',
  port,
  security: 'none' as const,
  user: 'kanonos',
  password: 'right' as string | null,
  sender: 'documents@test.example',
  ...more,
});
const mail = { id: 'x', to: 'ada@test.example', subject: 'x', html: 'x', text: 'x' };
const save = async (more: Parameters<typeof wanted>[0] = {}) =>
  saveMailServer(organisation.app, await organisation.as('admin'), wanted(more));

test('a server that does not answer, or refuses the password, changes nothing', async () => {
  expect(await codeOf(save({ port: 9 }))).toBe('mail_server_refuses');
  expect(await codeOf(save({ password: 'wrong' }))).toBe('mail_server_refuses');
  expect((await setupState(organisation.app)).mail).toMatchObject({ server: null, setBy: 'stand-in', settings: null });
});

test('a server that must encrypt is not used in the clear', async () => {
  expect(await codeOf(save({ security: 'upgrade' }))).toBe('mail_server_refuses');
});

test('mails go by the server that was set, with its sender, from the next one on', async () => {
  const sender = currentSender(organisation.app);
  await save();
  await sender.send(mail);
  expect(taken.at(-1)).toEqual({ from: 'documents@test.example', user: 'kanonos' });
  await save({ sender: 'quality@test.example', password: null });
  await sender.send(mail);
  expect(taken.at(-1)).toEqual({ from: 'quality@test.example', user: 'kanonos' });
});

test('its password is handed out nowhere, and goes to no other server', async () => {
  const state = await setupState(organisation.app);
  expect(state.mail).toMatchObject({
    setBy: 'browser',
    settings: { host: '127.0.0.1', port, user: 'kanonos', hasPassword: true, sender: 'quality@test.example' },
  });
  expect(JSON.stringify(state)).not.toContain('right');
  const kept = await rows<{ password: string }>(organisation.app.db, 'select password from mail_server');
  expect(kept[0]?.password).not.toContain('right');
  const events = await rows(organisation.app.db, `select text from events where kind = 'mail.server-changed'`);
  expect(events).toHaveLength(2);
  expect(JSON.stringify(events)).not.toContain('right');
  // Another user without a password of its own does not get the former one.
  expect(await codeOf(save({ user: 'somebody', password: null }))).toBe('mail_server_refuses');
});

test('what the environment says is not changed in the browser', async () => {
  const { smtpUrl } = organisation.app.config;
  organisation.app.config.smtpUrl = 'smtps://mail.example.org';
  try {
    expect(await codeOf(save())).toBe('mail_server_fixed');
    expect((await setupState(organisation.app)).mail).toMatchObject({
      server: 'smtps://mail.example.org',
      setBy: 'environment',
    });
  } finally {
    organisation.app.config.smtpUrl = smtpUrl;
  }
});

test('removed, mails go to the stand-in again', async () => {
  const admin = await organisation.as('admin');
  await removeMailServer(organisation.app, admin);
  expect((await setupState(organisation.app)).mail.setBy).toBe('stand-in');
  expect(await codeOf(removeMailServer(organisation.app, admin))).toBe('nothing_changed');
  expect((await organisation.verdict()).kind).toBe('intact');
});
