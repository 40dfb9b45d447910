// What other features may use of this one.
export {
  countFailed,
  goesToStandIn,
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
