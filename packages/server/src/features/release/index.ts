// What other features may use of this one.
export { applyDue } from './applyDue.ts';
export { liftHold, putOnHold } from './hold.ts';
export { preflightFor } from './preflight.ts';
export { abandon, revise } from './revise.ts';
export { runDueWork } from './runDueWork.ts';
export { moveDay, release, reopen } from './service.ts';
export { releaseSet, reviseSet } from './sets.ts';
export { findDue } from './store.ts';
export { cancelWithdrawal, reinstate, reinstatementFor, withdraw } from './withdraw.ts';
