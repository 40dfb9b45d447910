// What other features may use of this one.
export { markOf } from './service.ts';
