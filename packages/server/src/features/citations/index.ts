// What other features may use of this one.
export { citationsOf, citeWaiting } from './service.ts';
