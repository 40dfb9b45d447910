import {
  type BlueprintFolder,
  type FolderPath,
  folderAt,
  insertFolder,
  moveFolder,
  removeFolder,
  stepFolder,
} from '@kanonos/core';
import { type KeyboardEvent, useState } from 'react';
import { count } from '../../ui/format.ts';
import { Tree, type TreeRow } from '../../ui/Tree.tsx';
import { type BlueprintTreeState, newFolder } from './useBlueprintTree.ts';
import { wording } from './wording.ts';

const STEP = { ArrowUp: 'up', ArrowDown: 'down', ArrowRight: 'in', ArrowLeft: 'out' } as const;
const idOf = (path: FolderPath): string => path.join('.');
const pathOf = (id: string): FolderPath => id.split('.').map(Number);

/** The folders of a blueprint as a tree that is built by dragging and by keys. */
export const BlueprintTree = ({ state }: { state: BlueprintTreeState }) => {
  const { tree, chosen, folder, edit } = state;
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const rows = (folders: readonly BlueprintFolder[], above: FolderPath): TreeRow[] =>
    folders.flatMap((one, i) => {
      const path = [...above, i];
      const id = idOf(path);
      const isOpen = one.children.length ? !folded.has(id) : undefined;
      return [
        { id, depth: above.length, name: one.name, isOpen, mayMove: true, content: <FolderLine folder={one} /> },
        ...(isOpen ? rows(one.children, path) : []),
      ];
    });
  const add = (path: FolderPath) => edit(insertFolder(tree, path, newFolder(wording.newFolder)), path);
  const remove = () => {
    if (!folder) return;
    const left = removeFolder(tree, chosen);
    const [above, at] = [chosen.slice(0, -1), chosen.at(-1) ?? 0];
    const next = [chosen, [...above, Math.max(at - 1, 0)], above].find((path) => folderAt(left, path));
    edit(left, next ?? [0]);
  };
  const onKey = (event: KeyboardEvent): boolean => {
    if (event.altKey && event.key in STEP) {
      const moved = stepFolder(tree, chosen, STEP[event.key as keyof typeof STEP]);
      if (moved) edit(moved.folders, moved.path);
      return true;
    }
    if ((event.ctrlKey || event.metaKey) && event.key === 'z') {
      state.undo();
      return true;
    }
    if (event.key === 'Delete') {
      remove();
      return true;
    }
    return false;
  };
  const behind = chosen.length ? [...chosen.slice(0, -1), (chosen.at(-1) ?? 0) + 1] : [0];
  return (
    <div className="flex min-h-[340px] flex-col border border-line bg-film-2">
      <div className="flex flex-wrap items-center gap-1 border-b border-line px-1.5 py-1.5">
        <button type="button" className="btn !h-6" onClick={() => add(folder ? behind : [tree.length])}>
          {wording.addFolder}
        </button>
        <button
          type="button"
          className="btn !h-6"
          disabled={!folder}
          onClick={() => add([...chosen, folder?.children.length ?? 0])}
        >
          {wording.addSubfolder}
        </button>
        <button type="button" className="btn !h-6" disabled={!folder} onClick={remove}>
          {wording.remove}
        </button>
        <button
          type="button"
          className="btn btn-quiet ml-auto !h-6 !px-1.5"
          disabled={!state.canUndo}
          onClick={state.undo}
        >
          {wording.undo}
        </button>
      </div>
      <Tree
        label={wording.foldersInThisBlueprint}
        ordered
        rows={rows(tree, [])}
        chosen={idOf(chosen)}
        onChoose={(id) => state.choose(pathOf(id))}
        onFold={(id, fold) =>
          setFolded((before) => new Set([...before].filter((one) => one !== id).concat(fold ? id : [])))
        }
        onMove={(id, to, place) => {
          const moved = moveFolder(tree, pathOf(id), pathOf(to), place);
          if (moved) edit(moved.folders, moved.path);
        }}
        onKey={onKey}
      />
      <p className="border-t border-line px-2.5 py-1.5 text-[11.5px] text-ink-3">
        {wording.dragAFolderIntoAnotherOne} <span className="num">{wording.alt}</span> {wording.andAnArrowKeyMoveIt}{' '}
        <span className="num">{wording.del}</span> {wording.removesIt}
      </p>
    </div>
  );
};

const FolderLine = ({ folder: { name, metadata, starters, grants } }: { folder: BlueprintFolder }) => {
  const holds = [
    Object.keys(metadata).length && count(Object.keys(metadata).length, 'field', 'fields'),
    starters.length && count(starters.length, 'document', 'documents'),
    grants.length && 'rights',
  ].filter(Boolean);
  return (
    <>
      <span className="min-w-0 truncate">
        <WithPlaceholders text={name || wording.noNameYet} />
      </span>
      <span className="ml-auto pl-2 text-[11px] font-normal whitespace-nowrap text-ink-3">{holds.join(' · ')}</span>
    </>
  );
};

/** A text whose placeholders are set off from its fixed words. */
const WithPlaceholders = ({ text }: { text: string }) =>
  text.split(/(\{[A-Za-z][A-Za-z0-9]*\})/).map((part, i) =>
    i % 2 ? (
      // biome-ignore lint/suspicious/noArrayIndexKey: a part is its place in the text
      <span key={i} className="bg-petrol-tint px-1 font-[550] text-petrol">
        {part.slice(1, -1)}
      </span>
    ) : (
      part
    ),
  );
