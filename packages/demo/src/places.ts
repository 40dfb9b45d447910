import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';

/** The folder of this package, also where the program was bundled into another one. */
const PACKAGE = dirname(createRequire(import.meta.url).resolve('@kanonos/demo/package.json'));

/** The sources of the texts, one Markdown file for all revisions of a document. */
export const TEXTS = join(PACKAGE, 'texts');
/** Files that are kept as they are, because making them takes a browser. */
export const FILES = join(PACKAGE, 'files');
