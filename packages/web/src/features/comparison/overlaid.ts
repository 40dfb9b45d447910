import type { SideContent } from '@kanonos/contract';

const LOOKED_AT = new Set(['pdf', 'pages', 'picture', 'drawing']);

/** The file of a side that can be laid over another one. */
export const overlaid = (side: SideContent | undefined): SideContent['files'][number] | undefined =>
  side?.files.find((file) => file.id === side.fileId && LOOKED_AT.has(file.show)) ??
  side?.files.find((file) => LOOKED_AT.has(file.show));
