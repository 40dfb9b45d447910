// What other features may use of this one.
export { favouritesOf, isFavourite } from './service.ts';
