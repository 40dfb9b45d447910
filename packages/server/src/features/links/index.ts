// What other features may use of this one.
export { addLink, linkNames, linksOf } from './service.ts';
