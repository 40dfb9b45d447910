// What other features may use of this one.
export { moveOn, roundsOf, routeSituationOf, standingInFor, submit } from './service.ts';
