import type { Logger } from 'pino';

/**
 * The last safety net: unhandled errors are logged and never hidden. A rejection leaves the process running, for whoever waited
 * for it was answered or is not there; after an exception nobody knows what state it is in, so it ends and is started again.
 */
export const watchProcess = (log: Logger): void => {
  process.on('unhandledRejection', (reason) => log.error({ err: reason }, 'a rejection that nobody handled'));
  process.on('uncaughtException', (error) => {
    log.fatal({ err: error }, 'an exception that nobody handled: the process ends');
    process.exit(1);
  });
};
