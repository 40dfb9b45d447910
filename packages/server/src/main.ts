import { pino } from 'pino';
import { startBackground } from './background.ts';
import { openKanonos } from './createKanonos.ts';
import { createHttp } from './http.ts';
import { readConfig } from './platform/config.ts';
import { limitConnections } from './platform/http/limits.ts';
import { startMailStandIn } from './platform/mail/standIn.ts';
import { sealOf } from './platform/seal/organisationSeal.ts';
import { startSigningStandIn } from './platform/signing/standIn.ts';
import { watchProcess } from './platform/watchProcess.ts';

const SMTP_STAND_IN = 2525;

const start = async () => {
  const config = readConfig(process.env);
  const log = pino({ level: config.logLevel, redact: ['req.headers', 'password'] });
  // Without a mail server of the organisation the stand-in takes the mails, so that every link in them can be followed.
  const standIn = config.smtpUrl ? undefined : await startMailStandIn(config.dataDir, 0).catch(() => undefined);
  config.smtpUrl ??= `smtp://127.0.0.1:${standIn?.port ?? SMTP_STAND_IN}`;
  const app = openKanonos(config, log);
  // A demo without a signing service of its own shows how one works.
  const isDemo = (await app.organisation().catch(() => undefined))?.demo === true;
  const signing =
    isDemo && !config.signingServiceUrl
      ? await startSigningStandIn(config.dataDir, 0).catch(() => undefined)
      : undefined;
  config.signingServiceUrl ??= signing?.url;
  // A certificate that cannot be used is told now, and not when somebody downloads.
  if (config.sealKeyFile) await sealOf(app);
  let background: { stop: () => Promise<void> } | undefined;
  const server = createHttp(app).listen(config.port, config.host);
  // Behind a proxy every connection comes from it: there the proxy bounds them.
  limitConnections(server, config.trustProxy === false ? config.connectionsPerAddress : undefined);
  server.on('error', (error: NodeJS.ErrnoException) => {
    process.stderr.write(
      error.code === 'EADDRINUSE' ? `port ${config.port} is in use by another program\n` : `${error.stack}\n`,
    );
    process.exit(1);
  });
  server.on('listening', async () => {
    if (config.jobsHere) background = await startBackground(app);
    process.stdout.write(`listening on ${config.publicUrl}\n`);
  });
  watchProcess(log);
  const stop = async () => {
    server.close();
    server.closeIdleConnections();
    await background?.stop();
    await app.jobs.stop();
    await app.content.settled();
    await standIn?.stop();
    await signing?.stop();
    await app.db.destroy();
    process.exit(0);
  };
  process.on('SIGTERM', stop);
  process.on('SIGINT', stop);
  // Started by a command that is no more, nobody would ever stop it and its port would stay taken.
  process.on('disconnect', stop);
};

start().catch((error: Error) => {
  process.stderr.write(`Kanonos cannot start:\n${error.message}\n`);
  process.exit(1);
});
