import type { api, BodyOf } from '@kanonos/contract';
import { checkOriginals } from '@kanonos/core';
import type { App, Work } from '../../platform/app.ts';
import { ensureAllowed, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/service.ts';
import { type FileRow, type NewFile, sameFile } from './service.ts';
import { getStored } from './uploads.ts';

const FILE_KEYS = ['name', 'sha256', 'description', 'language', 'sheet'] as const;
/** Whether the originals are what they were, byte for byte and word for word. */
export const sameFiles = (files: readonly NewFile[], before: readonly FileRow[]) => {
  const originals = files.filter((file) => file.role === 'original');
  const old = before.filter((file) => file.role === 'original');
  // A name alone makes no new content where there is one original.
  const keys = old.length > 1 || originals.length > 1 ? FILE_KEYS : FILE_KEYS.filter((key) => key !== 'name');
  return (
    originals.length === old.length && originals.every((file, i) => keys.every((key) => file[key] === old[i]?.[key]))
  );
};

/** The files of the next version: the main original as sent or as it was, the others as said, attachments as they were. */
export const filesAfter = async (
  app: App,
  work: Work,
  viewer: Viewer,
  before: readonly FileRow[],
  input: Partial<Pick<BodyOf<typeof api.documents.checkIn>, 'uploadId' | 'about' | 'more'>>,
): Promise<NewFile[]> => {
  const [main, ...others] = before.filter((file) => file.role === 'original').map(sameFile);
  const sent = async (uploadId: string): Promise<NewFile> => {
    const { name, sha256, size } = await getStored(app, work.trx, viewer, uploadId);
    return { role: 'original', name, sha256, size };
  };
  const first = { ...main, ...(input.uploadId ? await sent(input.uploadId) : {}), ...input.about };
  const rest: NewFile[] = input.more ? [] : others;
  for (const { uploadId, keep, ...about } of input.more ?? []) {
    const kept = before.find((file) => file.id === keep && file.role === 'original');
    if (!uploadId && !kept) throw refused('upload_unknown');
    rest.push({ ...(uploadId ? await sent(uploadId) : sameFile(kept as FileRow)), ...about });
  }
  const files = [...(first.sha256 ? [first as NewFile] : []), ...rest];
  ensureAllowed(checkOriginals(files.map((file) => ({ description: '', language: '', sheet: null, ...file }))));
  return [...files, ...before.filter((file) => file.role === 'attachment').map(sameFile)];
};
