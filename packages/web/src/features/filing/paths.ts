import type { Folder, PlanFolder } from '@kanonos/contract';

/** The path of a folder, from its area down. */
export const pathOf = (folder: Folder, folders: readonly Folder[]): string => {
  const parent = folders.find((f) => f.id === folder.parentId);
  return parent ? `${pathOf(parent, folders)} / ${folder.name}` : folder.name;
};

/** The same of a folder of the plan. */
export const planPathOf = (folder: PlanFolder, folders: readonly PlanFolder[]): string => {
  const parent = folders.find((one) => one.id === folder.parentId);
  return parent ? `${planPathOf(parent, folders)} / ${folder.name}` : folder.name;
};
