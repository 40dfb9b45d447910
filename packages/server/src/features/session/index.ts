// What other features may use of this one.

export { endPrograms, mailPasswordLink, tokenHash, viewerOfToken } from './service.ts';
