// What other features may use of this one.
export { syncGroups } from './groupRules.ts';
export { blockRules, changingNumbers } from './guard.ts';
export { findEntries } from './lists.ts';
export { ensureMetadata, ensureSites, metadataRefusals, namesInMetadata, shownMetadata } from './metadata.ts';
export {
  finishOrganisation,
  type OrganisationDescription,
  type SeededOrganisation,
  seedOrganisation,
} from './organisation.ts';
export { applyPackageIn } from './package.ts';
export {
  type FolderRow,
  getFolder,
  getType,
  keepEdition,
  knownRules,
  listFolders,
  listTypes,
  policyOf,
  previewNumber,
  reservedFor,
  rulesOfTypes,
  type TypeRow,
  takeCounters,
  takeNumber,
  voidNumber,
} from './service.ts';
export { listChoices } from './storeLists.ts';
export { applyDuePlans, applyPlansDueToday } from './types.ts';
