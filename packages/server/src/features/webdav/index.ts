// What other features may use of this one.
export { applyDriveDue } from './driveFiles.ts';
export { createWebdav } from './http.ts';
