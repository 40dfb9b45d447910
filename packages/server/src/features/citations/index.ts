// What other features may use of this one.
export { citeWaiting } from './service.ts';
