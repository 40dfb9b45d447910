// What other features may use of this one.
export { actorOf, endPrograms, mailPasswordLink, tokenHash, viewerOfToken } from './service.ts';
