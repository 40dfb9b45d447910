import fc from 'fast-check';
import { expect, test } from 'vitest';
import { changeFolder, type FolderPath, folderAt, insertFolder, moveFolder, removeFolder, stepFolder } from './edit.ts';
import { type BlueprintFolder, parseOutline, toOutline } from './outline.ts';

const tree = (text: string): BlueprintFolder[] => {
  const parsed = parseOutline(text);
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.refusals));
  return parsed.value;
};
const names = (folders: readonly BlueprintFolder[]): string[] =>
  folders.flatMap(({ name, children }) => [name, ...names(children)]);
const pathsOf = (folders: readonly BlueprintFolder[], above: FolderPath = []): FolderPath[] =>
  folders.flatMap((folder, i) => [[...above, i], ...pathsOf(folder.children, [...above, i])]);
const folderOf = (name: string, children: BlueprintFolder[] = []): BlueprintFolder => ({
  name,
  metadata: {},
  starters: [],
  grants: [],
  children,
});
const treesOf = (depth: number): fc.Arbitrary<BlueprintFolder[]> =>
  fc.array(
    fc
      .tuple(fc.uuid(), depth ? treesOf(depth - 1) : fc.constant<BlueprintFolder[]>([]))
      .map(([name, below]) => folderOf(name, below)),
    { maxLength: 3 },
  );
const anyTree = treesOf(3);

const LINE = tree('a\n  b\n    c\n  d\ne');

test('a folder is moved into another one, before it or after it, with all its content', () => {
  expect(toOutline(moveFolder(LINE, [0, 0], [1], 'in')?.folders ?? [])).toBe('a\n  d\ne\n  b\n    c');
  expect(toOutline(moveFolder(LINE, [0, 0], [1], 'behind')?.folders ?? [])).toBe('a\n  d\ne\nb\n  c');
  expect(moveFolder(LINE, [0, 0], [0, 1], 'behind')).toMatchObject({ path: [0, 1] });
  expect(toOutline(moveFolder(LINE, [1], [0, 0, 0], 'before')?.folders ?? [])).toBe('a\n  b\n    e\n    c\n  d');
});

test('nothing is moved into itself or its own content', () => {
  expect(moveFolder(LINE, [0], [0, 0, 0], 'in')).toBeNull();
  expect(moveFolder(LINE, [0], [0], 'behind')).toBeNull();
  expect(moveFolder(LINE, [7], [0], 'in')).toBeNull();
});

test('steps by keyboard: up, down, in and out, and nowhere at the ends', () => {
  expect(toOutline(stepFolder(LINE, [1], 'up')?.folders ?? [])).toBe('e\na\n  b\n    c\n  d');
  expect(toOutline(stepFolder(LINE, [1], 'in')?.folders ?? [])).toBe('a\n  b\n    c\n  d\n  e');
  expect(toOutline(stepFolder(LINE, [0, 0], 'out')?.folders ?? [])).toBe('a\n  d\nb\n  c\ne');
  expect([stepFolder(LINE, [0], 'up'), stepFolder(LINE, [1], 'down'), stepFolder(LINE, [0], 'out')]).toEqual([
    null,
    null,
    null,
  ]);
});

test('whatever is moved where, no folder is lost or doubled, and it is where it was moved to', () => {
  fc.assert(
    fc.property(anyTree, fc.nat(), fc.nat(), fc.constantFrom('in', 'before', 'behind'), (folders, a, b, place) => {
      const paths = pathsOf(folders);
      const [from, to] = [paths[a % (paths.length || 1)], paths[b % (paths.length || 1)]];
      if (!from || !to) return;
      const target = folderAt(folders, to)?.name;
      const moved = moveFolder(folders, from, to, place as 'in');
      if (!moved) return;
      expect(names(moved.folders).sort()).toEqual(names(folders).sort());
      expect(folderAt(moved.folders, moved.path)).toEqual(folderAt(folders, from));
      const [above, at] = [moved.path.slice(0, -1), moved.path.at(-1) ?? 0];
      const beside = place === 'in' ? above : [...above, place === 'before' ? at + 1 : at - 1];
      expect(folderAt(moved.folders, beside)?.name).toBe(target);
    }),
  );
});

test('what is put in and taken out again leaves the tree as it was, and a change reaches one folder alone', () => {
  fc.assert(
    fc.property(anyTree, fc.nat(), (folders, n) => {
      const paths = pathsOf(folders);
      const path = paths[n % (paths.length || 1)] ?? [0];
      expect(removeFolder(insertFolder(folders, path, folderOf('new')), path)).toEqual(folders);
      const changed = names(changeFolder(folders, path, { name: 'changed' }));
      expect(changed.filter((name) => name === 'changed')).toHaveLength(paths.length ? 1 : 0);
    }),
  );
});
