// What other features may use of this one.
export { ensureAskable, meantRevision, ownRouteAsks } from './adHoc.ts';
export { endRoundsWithDraft } from './endWithDraft.ts';
export { escalateWaiting } from './escalate.ts';
export { factsOf } from './facts.ts';
export { startPlannedRounds } from './planned.ts';
export { advance } from './progress.ts';
export { routedOf } from './routeOfWork.ts';
export { moveOn, roundAfterCheckIn, roundsOf, routeSituationOf, standingInFor, submit } from './service.ts';
export { startRound } from './startRound.ts';
export { signaturesOutside } from './views.ts';
