// What other features may use of this one.
export { currentSender, mailServerState, removeMailServer, saveMailServer } from './server.ts';
export {
  countFailed,
  mailAddresses,
  notify,
  notifyEach,
  purgeMails,
  resumeMails,
  SECRET,
  sendAgain,
  sendMail,
  sendSummaries,
} from './service.ts';
