// What other features may use of this one.
export { moveOn, roundAfterCheckIn, roundsOf, routeSituationOf, standingInFor, submit } from './service.ts';
