// What other features may use of this one.
export {
  ensureRight,
  explain,
  forbiddenBy,
  isWithheld,
  type ListScope,
  listScope,
  listScopeWithNames,
  type PlanNames,
  readsContent,
  rightsOn,
  rightsOnFolders,
  rightsOnMany,
  rightsWithAsked,
  SEES,
  SEES_WORK,
  toPlace,
  type Viewer,
  viewerBySession,
  viewerOf,
} from './service.ts';
export { actorOf } from './viewer.ts';
