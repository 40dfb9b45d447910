import type { AnswerOf, api } from '@kanonos/contract';
import type { App } from '../../platform/app.ts';
import { createMailSender, type MailSender, type MailServer } from '../../platform/mail/sender.ts';
import { refused } from '../../platform/refused.ts';
import type { Handler } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import * as store from './storeServer.ts';

type State = AnswerOf<typeof api.setup.state>['mail'];

/** Whether an address is the stand-in on this machine, which keeps mails and reaches nobody. */
const isStandIn = (smtpUrl: string | undefined): boolean =>
  smtpUrl === undefined || /127\.0\.0\.1|localhost/.test(smtpUrl);

/**
 * The mail server in use: that of the environment, for who runs the machine decides; else the one set in the browser; else the stand-in.
 */
const serverInUse = async (app: App): Promise<MailServer & { setBy: State['setBy']; row?: store.MailServerRow }> => {
  const { smtpUrl, smtpFrom } = app.config;
  if (!isStandIn(smtpUrl)) return { smtpUrl, smtpFrom, setBy: 'environment' };
  const row = await store.findMailServer(app.db);
  if (!row) return { smtpUrl, smtpFrom, setBy: 'stand-in' };
  return { ...toServer(app, row), setBy: 'browser', row };
};

/** RFC 8314: encrypted from the first byte; or a plain connection that is upgraded, which `upgrade` insists on. */
const toServer = (app: App, row: store.MailServerRow): MailServer => ({
  smtpUrl: `${row.security === 'encrypted' ? 'smtps' : 'smtp'}://${row.host}:${row.port}`,
  smtpFrom: row.sender,
  requireTls: row.security === 'upgrade',
  ...(row.user_name ? { user: row.user_name, password: row.password ? app.secrets.reveal(row.password) : '' } : {}),
});

/** Whether mails go to the stand-in. */
export const usesStandIn = async (app: App): Promise<boolean> => (await serverInUse(app)).setBy === 'stand-in';

/** Which mail server is in use, without its password. */
export const mailServerState = async (app: App): Promise<State> => {
  const { smtpUrl, smtpFrom, setBy, row } = await serverInUse(app);
  const { protocol, host } = new URL(smtpUrl ?? 'smtp://127.0.0.1');
  return {
    from: smtpFrom,
    server: setBy === 'stand-in' ? null : `${protocol}//${host}`,
    setBy,
    settings: row
      ? {
          host: row.host,
          port: row.port,
          security: row.security,
          user: row.user_name,
          hasPassword: row.password !== null,
          sender: row.sender,
        }
      : null,
  };
};

/** Sends by the server that is in use when the mail is sent: a change holds for all processes without a restart. */
export const currentSender = (app: App): Pick<MailSender, 'send'> => {
  let open: { key: string; sender: MailSender } | undefined;
  return {
    send: async (mail) => {
      const server = await serverInUse(app);
      const key = JSON.stringify(server);
      if (open?.key !== key) {
        open?.sender.close();
        open = { key, sender: createMailSender(server) };
      }
      await open.sender.send(mail);
    },
  };
};

/**
 * Sets the mail server, after it has answered: with a wrong host, port, user or password nothing is changed.
 *
 * @throws mail_server_fixed where the environment sets it, mail_server_refuses with the server's own words
 */
export const saveMailServer: Handler<typeof api.setup.saveMailServer> = async (app, viewer, input) => {
  if (!isStandIn(app.config.smtpUrl)) throw refused('mail_server_fixed');
  const before = await store.findMailServer(app.db);
  const isSameAccount = before?.host === input.host && before.user_name === input.user;
  const row: store.MailServerRow = {
    host: input.host,
    port: input.port,
    security: input.security,
    user_name: input.user,
    // A kept password goes to the server that it was given for, and to no other.
    password:
      input.password === null ? (isSameAccount ? (before?.password ?? null) : null) : app.secrets.hide(input.password),
    sender: input.sender,
  };
  const trial = createMailSender(toServer(app, row));
  try {
    await trial.verify();
  } catch (error) {
    throw refused('mail_server_refuses', { reason: (error as Error).message.slice(0, 200) });
  } finally {
    trial.close();
  }
  await app.command(actorOf(viewer), async (work) => {
    await store.keepMailServer(work.trx, row);
    work.record({
      kind: 'mail.server-changed',
      subject: {},
      payload: { server: `${row.host}:${row.port}`, security: row.security, user: row.user_name, sender: row.sender },
    });
  });
  return {};
};

/** Mails go to the stand-in again. */
export const removeMailServer = (app: App, viewer: Parameters<typeof saveMailServer>[1]): Promise<void> =>
  app.command(actorOf(viewer), async (work) => {
    const before = await store.findMailServer(work.trx);
    if (!before) throw refused('nothing_changed');
    await store.removeMailServer(work.trx);
    work.record({ kind: 'mail.server-removed', subject: {}, payload: { server: `${before.host}:${before.port}` } });
  });
