// What other features may use of this one.
export { foldCounts, idsOf } from './service.ts';
