import type { Readable } from 'node:stream';
import yauzl from 'yauzl';
import { RefusalError, refused } from '../refused.ts';

const MOST_ENTRIES = 60_000;
const MOST_TIMES = 200;
const SMALL = 1 << 20;

/** An entry whose bytes differ from its zip header: more of them, or broken ones. */
const refusalOf = (cause: Error) =>
  /too many bytes|not enough bytes/.test(cause.message) ? refused('zip_bomb') : refused('zip_unreadable');

/**
 * Hands on the files of a zip one after the other, each as a stream. Refused as a whole: names that lead out of it, more entries or
 * bytes than plausible, and contents that grow without bound when unpacked. Encrypted entries are skipped and reported.
 */
export const unzip = (
  path: string,
  mostBytes: number,
  take: (name: string, stream: Readable) => Promise<void>,
): Promise<{ skipped: string[] }> =>
  new Promise((resolve, reject) => {
    yauzl.open(path, { lazyEntries: true, validateEntrySizes: true, decodeStrings: true }, (error, zip) => {
      if (error || !zip) {
        reject(refused('zip_unreadable'));
        return;
      }
      const skipped: string[] = [];
      let bytes = 0;
      const fail = (reason: unknown) => {
        zip.close();
        reject(reason);
      };
      if (zip.entryCount > MOST_ENTRIES) return fail(refused('zip_too_many', { limit: MOST_ENTRIES }));
      zip.on('error', (cause: Error) =>
        fail(
          /relative path|absolute path|invalid characters/.test(cause.message)
            ? refused('zip_path')
            : refused('zip_unreadable'),
        ),
      );
      zip.on('end', () => resolve({ skipped }));
      zip.on('entry', (entry: yauzl.Entry) => {
        const name = entry.fileName;
        // A folder entry, or a file that an operating system added.
        if (/\/$/.test(name) || /(^|\/)(__MACOSX|\.DS_Store|Thumbs\.db)/i.test(name)) return zip.readEntry();
        if (entry.generalPurposeBitFlag & 1) {
          skipped.push(name);
          return zip.readEntry();
        }
        bytes += entry.uncompressedSize;
        const grows = entry.uncompressedSize > SMALL && entry.uncompressedSize > entry.compressedSize * MOST_TIMES;
        if (grows || bytes > mostBytes) return fail(refused('zip_bomb'));
        zip.openReadStream(entry, (wrong, stream) => {
          if (wrong || !stream) return fail(refused('zip_unreadable'));
          // Sizes that lie show while it is read: heard from the beginning, before anybody else listens.
          let lied: Error | undefined;
          stream.on('error', (cause: Error) => {
            lied = cause;
          });
          take(name, stream).then(
            () => zip.readEntry(),
            (cause) => {
              stream.destroy();
              fail(lied && !(cause instanceof RefusalError) ? refusalOf(lied) : cause);
            },
          );
        });
      });
      zip.readEntry();
    });
  });
