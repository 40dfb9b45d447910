// What other features may use of this one.
export { changeGrants, grantsTag } from './grants.ts';
export type { Handler, HandlerOf } from './handler.ts';
export {
  accessPlaces,
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
export { type GrantGiven, listGrants, replaceGrants } from './storeGrants.ts';
export { actorOf, lookerOf } from './viewer.ts';
