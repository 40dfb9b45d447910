// What other features may use of this one.
export { addLink, linkNames } from './service.ts';
