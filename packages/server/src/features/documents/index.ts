// What other features may use of this one.
export { ensureActive, ensureSharing } from './aboutRules.ts';
export { differsInMetadataOnly, shownCopy } from './copies.ts';
export { storedName } from './fileNames.ts';
export { filledFile, handedOutFiles, handOut, metadataInNames, openFile, rightToRead, toVersions } from './files.ts';
export { joinLifecycle, lifecycle } from './lifecycle.ts';
export { matchNames } from './matching.ts';
export { filesAfter, namedByRule, renameByRule, sameFiles } from './nextFiles.ts';
export { ensureMayStandUnder, findParent, relativesOf } from './parents.ts';
export { COMMON_PLACES, placedValues } from './placed.ts';
export { applyWhatIsDue, assertCommand, openForCommand, runCommand, taggedState, workOf } from './runCommand.ts';
export {
  allMetadata,
  ensureDocumentRight,
  followsNamingRule,
  type Opened,
  offeredOwnStates,
  openDocument,
  openIfVisible,
  type RouteSituation,
  situationOf,
  subjectOf,
  takenRevision,
} from './service.ts';
export {
  changeDocument,
  type DocumentRow,
  findDocument,
  listRecent,
  lockDocument,
  refreshLists,
  refreshWords,
  setCheckDay,
  setHold,
  setNumber,
  setReviewDay,
  setWithdrawal,
  type WrittenAbout,
} from './store.ts';
