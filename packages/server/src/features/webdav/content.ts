import type { Readable } from 'node:stream';
import { isReleased } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { mediaTypeOf } from '../../platform/content/kind.ts';
import { newId } from '../../platform/db/ids.ts';
import { officeKind } from '../../platform/office/metadata.ts';
import { RefusalError } from '../../platform/refused.ts';
import type { Viewer } from '../access/index.ts';
import { actorOf } from '../access/index.ts';
import { keepContent, rememberUpload } from '../content/index.ts';
import { filledFile } from '../documents/index.ts';
import type { DocumentNode, Node } from './tree.ts';

const UNKNOWN = 'application/octet-stream';

/** Bytes as a program saved them, kept whatever they are: filing decides whether they are allowed. Undefined where empty. */
export const keepBytes = async (
  app: App,
  viewer: Viewer,
  name: string,
  stream: Readable,
): Promise<{ uploadId: string; sha256: string } | undefined> => {
  const { sha256, size, head } = await app.content.put(stream, (await app.organisation()).uploadLimit);
  if (size === 0) return undefined;
  const judged = await mediaTypeOf(name, head).catch((error) => {
    if (error instanceof RefusalError) return { mediaType: UNKNOWN, warning: null };
    throw error;
  });
  const uploadId = newId();
  await app.command(actorOf(viewer), async (work) => {
    await keepContent(app, work, { sha256, size, ...judged }, 'draft');
    await rememberUpload(work, viewer, { id: uploadId, sha256, name });
  });
  return { uploadId, sha256 };
};

const KEPT = 5000;
const sizes = new Map<string, number>();

/**
 * How many bytes a document's copy has when it is handed out: metadata are filled into it, or marks written onto it, so it is not the
 * size of what is filed. Marking pages takes its time: a list omits it until somebody has opened the file.
 */
export const sizeHandedOut = async (
  app: App,
  viewer: Viewer,
  { file }: DocumentNode,
  inList: boolean,
): Promise<number | undefined> => {
  const isMarked = file.media_type === 'application/pdf' && isReleased(file.state);
  if (!officeKind(file.media_type) && !isMarked) return file.size;
  const key = `${file.file_id} ${file.document_version} ${file.version} ${file.state}`;
  const known = sizes.get(key);
  if (known !== undefined) return known;
  if (isMarked && inList) return undefined;
  const size = (await filledFile(app, viewer, file.file_id))?.byteLength ?? file.size;
  if (sizes.size > KEPT) sizes.clear();
  sizes.set(key, size);
  return size;
};

/** The entity tag of the present resource; a collection has none. */
export const etagOf = (node: Node): string | undefined => {
  if (node.kind === 'folder' || (node.kind === 'drive' && node.row.is_folder)) return undefined;
  if (node.kind === 'drive') return `"${node.row.upload_id ?? `${node.row.id}-empty`}"`;
  return `"${node.checkout?.upload_id ?? `${node.file.file_id}.${node.file.document_version}.${node.file.version}`}"`;
};
