// What other features may use of this one.
export { correctMetadata } from './metadata.ts';
export { checkIn, checkOut, discardCheckout, saveVersion } from './service.ts';
export { findWorkingCopy, listRemovedVersions, listSupportingFiles } from './store.ts';
export { keepSupportingFile, supportingFile } from './supportingFiles.ts';
export { addSupportingFile, keepWorkingCopy } from './workingCopies.ts';
export { readAsText, saveWorkingText, workingText } from './workingText.ts';
