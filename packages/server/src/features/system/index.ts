// What other features may use of this one.
export { checkContents, tellIncidents } from './contentChecks.ts';
export { eachOnItsOwn, runStages } from './failedWork.ts';
export { attentionFor } from './service.ts';
