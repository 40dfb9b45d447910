// What other features may use of this one.
export { beginEmpty } from './service.ts';
