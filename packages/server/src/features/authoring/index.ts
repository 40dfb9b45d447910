// What other features may use of this one.
export { correctMetadata } from './metadata.ts';
export { listRemovedVersions } from './removingVersions.ts';
export { checkIn, checkOut, discardCheckout, saveVersion } from './service.ts';
export { keepSupportingFile, supportingFile } from './supportingFiles.ts';
export { findWorkingCopy, keepWorkingCopy, listSupportingFiles } from './workingCopies.ts';
export { readAsText, saveWorkingText, workingText } from './workingText.ts';
