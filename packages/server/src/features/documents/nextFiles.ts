import type { api, BodyOf } from '@kanonos/contract';
import { checkOriginals, type Metadata } from '@kanonos/core';
import type { App, UnitOfWork } from '../../platform/app.ts';
import { assertAllowed, refused } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { getStored } from '../content/index.ts';
import { addVersion, type FileRow, listFiles, type NewFile, type RevisionRow, sameFile } from '../revisions/index.ts';
import { storedName } from './fileNames.ts';
import { metadataInNames } from './files.ts';
import { followsNamingRule, type Opened } from './service.ts';

const FILE_KEYS = ['name', 'sha256', 'description', 'language', 'sheet'] as const;
/** The stored names of originals by the naming rule of the type. */
export const namedByRule = (
  { document, type }: Pick<Opened, 'document' | 'type'>,
  revision: { label: string; title: string; metadata: Metadata },
  n: number,
  day: string,
  files: readonly NewFile[],
): NewFile[] => {
  let index = 0;
  return files.map((file) =>
    file.role === 'original'
      ? {
          ...file,
          name: storedName(file.name, index++, {
            number: document.number,
            revision: revision.label,
            title: revision.title,
            version: String(n),
            date: day,
            fields: metadataInNames({ ...document.metadata, ...revision.metadata }),
            rule: type.naming_rule,
          }),
        }
      : file,
  );
};

/** Brings stored names in line with the present name of a revision, as its next version; does nothing where no rule names them. */
export const renameByRule = async (
  work: UnitOfWork,
  opened: Pick<Opened, 'document' | 'type'>,
  revision: RevisionRow,
): Promise<void> => {
  if (!followsNamingRule(opened.document, opened.type) || !revision.latest_version_id) return;
  const files = (await listFiles(work.trx, [revision.latest_version_id])).map(sameFile);
  const named = namedByRule(opened, revision, revision.version_count + 1, work.day, files);
  if (named.every((file, i) => file.name === files[i]?.name)) return;
  const { title, summary, metadata } = revision;
  await addVersion(work, revision, { files: named, note: 'Renamed by rule', title, summary, metadata });
};

/** Whether the originals are unchanged, byte for byte and word for word. */
export const sameFiles = (files: readonly NewFile[], before: readonly FileRow[]) => {
  const originals = files.filter((file) => file.role === 'original');
  const old = before.filter((file) => file.role === 'original');
  // A name alone makes no new content where there is one original.
  const keys = old.length > 1 || originals.length > 1 ? FILE_KEYS : FILE_KEYS.filter((key) => key !== 'name');
  return (
    originals.length === old.length && originals.every((file, i) => keys.every((key) => file[key] === old[i]?.[key]))
  );
};

/** The files of the next version: the main original as sent or unchanged, the others as requested, attachments unchanged. */
export const filesAfter = async (
  app: App,
  work: UnitOfWork,
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
  assertAllowed(checkOriginals(files.map((file) => ({ description: '', language: '', sheet: null, ...file }))));
  return [...files, ...before.filter((file) => file.role === 'attachment').map(sameFile)];
};
