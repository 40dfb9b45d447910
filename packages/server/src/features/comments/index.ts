// What other features may use of this one.
export { countComments, countOpen, insertComment, openBlocking, resolveComment } from './service.ts';
export { saveStamp } from './stamps.ts';
