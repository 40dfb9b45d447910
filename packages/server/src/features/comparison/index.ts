// What other features may use of this one.
export { compareWaiting } from './service.ts';
