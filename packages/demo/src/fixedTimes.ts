import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';

const FIXED = '2020-01-01T12:00:00Z';

/** An office file with the same bytes for the same content: libraries write when it was made, in its properties and in each entry. */
export const withFixedTimes = (bytes: Uint8Array): Buffer =>
  Buffer.from(
    zipSync(
      Object.fromEntries(
        Object.entries(unzipSync(bytes)).map(([name, part]) => [
          name,
          [
            name === 'docProps/core.xml'
              ? strToU8(strFromU8(part).replace(/\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d+)?Z/g, FIXED))
              : part,
            // Pictures are compressed already.
            { mtime: FIXED, level: /\.(png|jpe?g)$/.test(name) ? 0 : 1 },
          ],
        ]),
      ),
    ),
  );
