// What other features may use of this one.
export { resumeImports, runImport } from './running.ts';
export { confirmTakenOver, unverifiedDocuments } from './unverified.ts';
