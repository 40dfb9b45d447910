import { type BlueprintFolder, type FolderPath, folderAt, parseOutline, type Refusal, toOutline } from '@kanonos/core';
import { useState } from 'react';

export type Way = 'tree' | 'outline';

const EMPTY: BlueprintFolder = { name: '', metadata: {}, starters: [], grants: [], children: [] };
export const newFolder = (name: string): BlueprintFolder => ({ ...EMPTY, name });

/**
 * A blueprint while it is edited. The outline is what is kept; the tree is read from it and written back, so that both ways of
 * editing stand side by side, and every step on the tree can be taken back.
 */
export const useBlueprintTree = (first: string) => {
  const parsedFirst = parseOutline(first);
  const [way, setWay] = useState<Way>(parsedFirst.ok ? 'tree' : 'outline');
  const [text, setText] = useState(first);
  const [tree, setTree] = useState<BlueprintFolder[]>(parsedFirst.ok ? parsedFirst.value : []);
  const [past, setPast] = useState<{ tree: BlueprintFolder[]; step: string }[]>([]);
  const [chosen, setChosen] = useState<FolderPath>([0]);
  const outline = way === 'tree' ? toOutline(tree) : text;
  const parsed = parseOutline(outline);
  const refusals: Refusal[] = parsed.ok ? [] : parsed.refusals;
  return {
    way,
    outline,
    refusals,
    /** The folders as they would be kept; none while the outline cannot be read. */
    folders: parsed.ok ? parsed.value : null,
    tree,
    chosen,
    folder: folderAt(tree, chosen),
    canUndo: past.length > 0,
    type: setText,
    choose: setChosen,
    turn: (next: Way) => {
      if (next === way) return;
      if (next === 'outline') setText(outline);
      else if (parsed.ok) {
        setTree(parsed.value);
        setPast([]);
        setChosen([0]);
      } else return;
      setWay(next);
    },
    /** Changes of the same step, such as letters typed into one field, are undone together. */
    edit: (folders: BlueprintFolder[], path: FolderPath = chosen, step = '') => {
      if (step === '' || past.at(-1)?.step !== step) setPast((before) => [...before.slice(-99), { tree, step }]);
      setTree(folders);
      setChosen(path);
    },
    undo: () => {
      const last = past.at(-1);
      if (!last) return;
      setTree(last.tree);
      setPast(past.slice(0, -1));
      if (!folderAt(last.tree, chosen)) setChosen([0]);
    },
  };
};
export type BlueprintTreeState = ReturnType<typeof useBlueprintTree>;
