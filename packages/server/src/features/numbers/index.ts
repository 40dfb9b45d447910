// What other features may use of this one.
export { endRoundOut } from './service.ts';
