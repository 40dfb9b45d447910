import { z } from 'zod';
import { DocumentParam, Id, Instant, text } from './common.ts';
import { Upload } from './documents.ts';
import { endpoint } from './endpoint.ts';

const IdParam = z.strictObject({ id: Id });

/** A file that somebody saved in a folder by a desk program and that waits to become a document. */
export const DriveFile = z.object({
  id: Id,
  name: z.string(),
  folder: z.object({ id: Id, path: z.string() }),
  size: z.number().int(),
  changedAt: Instant,
  why: z.string(),
});
export type DriveFile = z.infer<typeof DriveFile>;

/** Desk programs: passwords by which they sign in, and what was saved by them. */
export const programs = {
  programPasswords: endpoint({
    id: 'programPasswords',
    feature: 'programs',
    method: 'GET',
    path: '/api/profile/program-passwords',
    summary: 'Passwords of my programs, and the address at which they find the documents',
    answer: z.object({
      address: z.string(),
      passwords: z.array(z.object({ id: Id, name: z.string(), madeAt: Instant, usedAt: Instant.nullable() })),
    }),
  }),
  addProgramPassword: endpoint({
    id: 'addProgramPassword',
    feature: 'programs',
    method: 'POST',
    path: '/api/profile/program-passwords',
    summary: 'Make a password for one of my programs; it is shown this once',
    body: z.strictObject({ name: text(80, 1) }),
    answer: z.object({ password: z.string() }),
    problems: ['input_invalid'],
  }),
  endProgramPassword: endpoint({
    id: 'endProgramPassword',
    feature: 'programs',
    method: 'DELETE',
    path: '/api/profile/program-passwords/:id',
    summary: 'End a password of a program',
    params: IdParam,
    problems: ['not_found'],
  }),
  onDrive: endpoint({
    id: 'addressOnDrive',
    feature: 'programs',
    method: 'GET',
    path: '/api/documents/:document/on-drive',
    summary: 'The addresses at which desktop applications open the file in work',
    params: DocumentParam,
    answer: z.object({ address: z.string(), openers: z.array(z.object({ program: z.string(), address: z.string() })) }),
    problems: ['not_found', 'original_missing'],
  }),
  workingText: endpoint({
    id: 'workingText',
    feature: 'programs',
    method: 'GET',
    path: '/api/documents/:document/working-text',
    summary: 'The text of a Markdown or text file that I have checked out: as last saved, else as filed',
    params: DocumentParam,
    answer: z.object({ name: z.string(), text: z.string(), savedAt: Instant.nullable(), markdown: z.boolean() }),
    problems: ['not_found', 'not_checked_out', 'checked_out', 'cannot_be_shown', 'content_missing'],
  }),
  saveWorkingText: endpoint({
    id: 'saveWorkingText',
    feature: 'programs',
    method: 'PUT',
    path: '/api/documents/:document/working-text',
    summary: 'Save what I have written so far under my check-out; it becomes a version at check-in',
    params: DocumentParam,
    body: z.strictObject({
      text: z.string().max(1_500_000),
      /** What it was written over: `savedAt` as it was last heard of. */
      over: Instant.nullable(),
    }),
    answer: z.object({ savedAt: Instant }),
    problems: ['not_found', 'not_checked_out', 'checked_out', 'cannot_be_shown', 'saved_elsewhere', 'input_invalid'],
  }),
  readAsText: endpoint({
    id: 'readAsText',
    feature: 'programs',
    method: 'POST',
    path: '/api/reading-text',
    summary: 'Markdown as clean reading text, as it will be shown',
    body: z.strictObject({ text: z.string().max(1_500_000) }),
    answer: z.object({ html: z.string() }),
    problems: ['input_invalid'],
  }),
  addSupportingFile: endpoint({
    id: 'addSupportingFile',
    feature: 'programs',
    method: 'POST',
    path: '/api/documents/:document/supporting-files',
    summary: 'Add a supporting file to the revision in work; it is never a version',
    params: DocumentParam,
    body: z.strictObject({ uploadId: Id, note: text(2000, 1) }),
    problems: ['not_found', 'right_missing', 'wrong_state', 'folder_shut', 'upload_unknown', 'content_missing'],
  }),
  supportingFile: endpoint({
    id: 'supportingFile',
    feature: 'programs',
    method: 'GET',
    path: '/api/supporting-files/:id/file',
    summary: 'The bytes of a supporting file',
    params: IdParam,
    stream: 'bytes',
    problems: ['not_found', 'content_missing'],
  }),
  driveFiles: endpoint({
    id: 'driveFiles',
    feature: 'programs',
    method: 'GET',
    path: '/api/drive-files',
    summary: 'Files that I saved on the network drive and that are not documents yet',
    answer: z.object({ files: z.array(DriveFile) }),
  }),
  takeDriveFile: endpoint({
    id: 'takeDriveFile',
    feature: 'programs',
    method: 'POST',
    path: '/api/drive-files/:id/take',
    summary: 'Use a file of the network drive as an upload, to register it',
    params: IdParam,
    body: z.strictObject({}),
    answer: Upload,
    problems: ['not_found'],
  }),
};
