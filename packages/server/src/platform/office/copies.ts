import { readFile } from 'node:fs/promises';
import { RefusalError } from '../refused.ts';
import { fillMetadata, type OfficeKind, type Placed } from './metadata.ts';
import { isSealed, readParts } from './package.ts';

/** A file with values filled in; undefined where it is unreadable, or carries a digital signature, which any change would break. */
export const fillUnsealed = async (path: string, kind: OfficeKind, values: Placed): Promise<Uint8Array | undefined> => {
  const bytes = await readFile(path);
  try {
    if (kind !== 'md' && isSealed(bytes)) return undefined;
    return fillMetadata(bytes, kind, values);
  } catch (error) {
    if (error instanceof RefusalError) return undefined;
    throw error;
  }
};

/** Parts in which programs write who saved when: they differ without a word having changed. */
const OF_PROGRAM = /^docProps\/(app|core)\.xml$|^meta\.xml$|^settings\.xml$|^Thumbnails\//;

const sameParts = (a: Uint8Array, b: Uint8Array): boolean => {
  const [x, y] = [a, b].map((bytes) => [...readParts(bytes)].filter(([name]) => !OF_PROGRAM.test(name)));
  return (
    x?.length === y?.length &&
    (x ?? []).every(([name, part]) => {
      const other = y?.find(([one]) => one === name)?.[1];
      return other !== undefined && Buffer.compare(part, other) === 0;
    })
  );
};

/** Whether two files have the same content apart from the filled-in values. */
export const sameButFields = async (
  beforePath: string,
  afterPath: string,
  kind: OfficeKind,
  values: Placed,
): Promise<boolean> => {
  const [before, after] = [await readFile(beforePath), await readFile(afterPath)];
  try {
    const filled = fillMetadata(before, kind, values);
    return kind === 'md' ? Buffer.compare(filled, after) === 0 : sameParts(filled, fillMetadata(after, kind, values));
  } catch (error) {
    if (error instanceof RefusalError) return false;
    throw error;
  }
};
