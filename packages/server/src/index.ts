// What the demo loader, the bench and the tests of other packages may use of the server.

export { createKanonos } from './createKanonos.ts';
export { type Viewer, viewerOf } from './features/access/service.ts';
export { correctMetadata } from './features/authoring/metadata.ts';
export * as authoring from './features/authoring/service.ts';
export * as blueprints from './features/blueprints/service.ts';
export * as comments from './features/comments/service.ts';
export { saveStamp } from './features/comments/stamps.ts';
export { takeUpload, takeWritten } from './features/content/uploads.ts';
export * as find from './features/find/service.ts';
export { runImport } from './features/imports/running.ts';
export * as imports from './features/imports/service.ts';
export { confirmTakenOver, unverifiedDocuments } from './features/imports/unverified.ts';
export { takeIncomingFiles } from './features/intake/watch.ts';
export { addLink } from './features/links/service.ts';
export { purgeMails } from './features/mailing/service.ts';
export * as numbers from './features/numbers/service.ts';
export * as page from './features/page/service.ts';
export * as people from './features/people/service.ts';
export * as reading from './features/reading/service.ts';
export { registerDocument } from './features/registration/service.ts';
export * as release from './features/release/index.ts';
export { runDueWork } from './features/release/runDueWork.ts';
export * as rounds from './features/rounds/service.ts';
export {
  finishOrganisation,
  type OrganisationDescription,
  type SeededOrganisation,
  seedOrganisation,
} from './features/rules/organisation.ts';
export * as session from './features/session/service.ts';
export * as templates from './features/templates/service.ts';
export { endDay, signHead } from './features/trail/heads.ts';
export { exportTrail } from './features/trail/service.ts';
export { recordUsage } from './features/usage/service.ts';
export { takeText } from './features/viewing/textByPages.ts';
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
