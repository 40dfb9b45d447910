import type { Folder } from '@kanonos/contract';

/** Where a folder stands, from its area down. */
export const pathOf = (folder: Folder, folders: readonly Folder[]): string => {
  const parent = folders.find((f) => f.id === folder.parentId);
  return parent ? `${pathOf(parent, folders)} / ${folder.name}` : folder.name;
};
