import type { BlueprintFolder } from './outline.ts';

/** The path of a folder in a blueprint: its index among its siblings, from the top down. */
export type FolderPath = readonly number[];

/** A changed tree and the path of the changed folder. */
export type Edited = { folders: BlueprintFolder[]; path: FolderPath };

const siblings = (
  folders: readonly BlueprintFolder[],
  above: FolderPath,
  change: (list: readonly BlueprintFolder[]) => BlueprintFolder[],
): BlueprintFolder[] => {
  const [at, ...deeper] = above;
  if (at === undefined) return change(folders);
  return folders.map((folder, i) =>
    i === at ? { ...folder, children: siblings(folder.children, deeper, change) } : folder,
  );
};

/** The folder at a path; undefined where there is none. */
export const folderAt = (folders: readonly BlueprintFolder[], path: FolderPath): BlueprintFolder | undefined => {
  const [at, ...deeper] = path;
  const found = at === undefined ? undefined : folders[at];
  return found && deeper.length ? folderAt(found.children, deeper) : found;
};

/** The same tree with one folder changed. */
export const changeFolder = (
  folders: readonly BlueprintFolder[],
  path: FolderPath,
  change: Partial<BlueprintFolder>,
): BlueprintFolder[] =>
  siblings(folders, path.slice(0, -1), (list) =>
    list.map((folder, i) => (i === path.at(-1) ? { ...folder, ...change } : folder)),
  );

/** A folder inserted at a path; those after it move on. */
export const insertFolder = (
  folders: readonly BlueprintFolder[],
  path: FolderPath,
  folder: BlueprintFolder,
): BlueprintFolder[] => {
  const at = path.at(-1) ?? 0;
  return siblings(folders, path.slice(0, -1), (list) => [...list.slice(0, at), folder, ...list.slice(at)]);
};

/** The tree without a folder and its content. */
export const removeFolder = (folders: readonly BlueprintFolder[], path: FolderPath): BlueprintFolder[] =>
  siblings(folders, path.slice(0, -1), (list) => list.filter((_, i) => i !== path.at(-1)));

/**
 * A folder moved with all its content: as the last one in a folder, or before or after it. Undefined where it would
 * be in itself.
 */
export const moveFolder = (
  folders: readonly BlueprintFolder[],
  from: FolderPath,
  to: FolderPath,
  place: 'in' | 'before' | 'behind',
): Edited | null => {
  const moved = folderAt(folders, from);
  const target = folderAt(folders, to);
  if (!moved || !target || from.every((step, i) => to[i] === step)) return null;
  const last = to.at(-1) ?? 0;
  const wished =
    place === 'in' ? [...to, target.children.length] : [...to.slice(0, -1), last + (place === 'behind' ? 1 : 0)];
  const path = afterRemoval(from, wished);
  return { folders: insertFolder(removeFolder(folders, from), path, moved), path };
};

/** The same place once a folder is removed: after it on its own level, everything moves up by one. */
const afterRemoval = (removed: FolderPath, place: FolderPath): FolderPath => {
  const level = removed.length - 1;
  const beside = removed.slice(0, level).every((step, i) => place[i] === step);
  const [from = 0, at] = [removed[level], place[level]];
  return beside && at !== undefined && at > from ? place.map((step, i) => (i === level ? step - 1 : step)) : place;
};

/** One step by keyboard: up or down among its siblings, into the folder above it in the list, or out after its own. */
export const stepFolder = (
  folders: readonly BlueprintFolder[],
  path: FolderPath,
  step: 'up' | 'down' | 'in' | 'out',
): Edited | null => {
  const [above, at] = [path.slice(0, -1), path.at(-1) ?? 0];
  if (step === 'out') return above.length ? moveFolder(folders, path, above, 'behind') : null;
  if (step === 'down') return moveFolder(folders, path, [...above, at + 1], 'behind');
  if (at === 0) return null;
  return moveFolder(folders, path, [...above, at - 1], step === 'up' ? 'before' : 'in');
};
