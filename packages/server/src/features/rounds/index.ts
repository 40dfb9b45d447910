// What other features may use of this one.
export { escalateWaiting } from './escalate.ts';
export { moveOn, roundAfterCheckIn, roundsOf, routeSituationOf, standingInFor, submit } from './service.ts';
export { signaturesOutside } from './views.ts';
