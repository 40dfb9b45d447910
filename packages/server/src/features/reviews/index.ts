// What other features may use of this one.
export { reviewAfterRelease } from './service.ts';
