// What other features may use of this one.
export { countOpen, insertComment, resolveComment } from './service.ts';
export { saveStamp } from './stamps.ts';
export { countComments, openBlocking } from './store.ts';
