// The parts of the server that the demo loader, the bench and the tests of other packages may use.

export { createKanonos } from './createKanonos.ts';
export { type Viewer, viewerOf } from './features/access/index.ts';
export { correctMetadata } from './features/authoring/index.ts';
export * as ownStates from './features/authoring/ownState.ts';
export * as authoring from './features/authoring/service.ts';
export * as blueprints from './features/blueprints/service.ts';
export * as changes from './features/changes/index.ts';
export { saveStamp } from './features/comments/index.ts';
export * as comments from './features/comments/service.ts';
export { takeUpload, takeWritten } from './features/content/index.ts';
export * as find from './features/find/service.ts';
export * as forms from './features/forms/index.ts';
export { confirmTakenOver, runImport, unverifiedDocuments } from './features/imports/index.ts';
export * as imports from './features/imports/service.ts';
export { takeIncomingFiles } from './features/intake/index.ts';
export { addLink } from './features/links/index.ts';
export { purgeMails } from './features/mailing/index.ts';
export * as numbers from './features/numbers/service.ts';
export * as orders from './features/orders/service.ts';
export * as page from './features/page/service.ts';
export * as people from './features/people/service.ts';
export * as reading from './features/reading/service.ts';
export { registerDocument } from './features/registration/index.ts';
export * as release from './features/release/index.ts';
export { runDueWork } from './features/release/index.ts';
export * as reviews from './features/reviews/service.ts';
export * as roundRules from './features/roundRules/service.ts';
export * as adHocRounds from './features/rounds/adHoc.ts';
export * as rounds from './features/rounds/service.ts';
export * as signatures from './features/rounds/signOutside.ts';
export {
  finishOrganisation,
  type OrganisationDescription,
  type SeededOrganisation,
  seedOrganisation,
} from './features/rules/index.ts';
export * as settings from './features/rules/settings.ts';
export * as absences from './features/session/absences.ts';
export * as session from './features/session/service.ts';
export { beginEmpty } from './features/setup/index.ts';
export * as templates from './features/templates/service.ts';
export { endDay, exportTrail, signHead } from './features/trail/index.ts';
export { recordUsage } from './features/usage/index.ts';
export { takeText } from './features/viewing/index.ts';
export { createHttp } from './http.ts';
export { migrate } from './migrate.ts';
export type { App } from './platform/app.ts';
export { checkPassword, hashPassword } from './platform/auth/passwords.ts';
export { loadSecrets } from './platform/auth/secrets.ts';
export { type Config, readConfig } from './platform/config.ts';
export { createDiskStore } from './platform/content/store.ts';
export { changed, connect, firstRow, rows } from './platform/db/connect.ts';
export { newId } from './platform/db/ids.ts';
export { createJobs, type Jobs } from './platform/jobs/jobs.ts';
export { appendEvents } from './platform/trail/append.ts';
