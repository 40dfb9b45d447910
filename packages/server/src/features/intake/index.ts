// What other features may use of this one.
export { startMailIntake } from './byMail.ts';
export { countIncomingFiles, fileIncomingFile } from './service.ts';
export { takeIncomingFiles, watchFolder } from './watch.ts';
