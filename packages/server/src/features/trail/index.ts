// What other features may use of this one.
export { endDay, signHead } from './heads.ts';
export { exportTrail } from './service.ts';
