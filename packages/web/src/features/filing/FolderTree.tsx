import type { PlanFolder } from '@kanonos/contract';
import { useState } from 'react';
import { Tree, type TreeRow } from '../../ui/Tree.tsx';
import { wording } from './wording.ts';

const STATE: Partial<Record<PlanFolder['state'], string>> = {
  'in preparation': 'in preparation',
  closed: 'closed',
  kept: 'kept',
};

/** The tree of folders; arrows walk it, dragging puts a folder elsewhere. */
export const FolderTree = ({
  folders,
  chosen,
  open,
  drop,
}: {
  folders: readonly PlanFolder[];
  chosen: string | undefined;
  open: (id: string) => void;
  drop: (id: string, to: string) => void;
}) => {
  const [folded, setFolded] = useState<ReadonlySet<string>>(new Set());
  const below = (parentId: string | null) => folders.filter((folder) => folder.parentId === parentId);
  const walk = (parentId: string | null, depth: number): TreeRow[] =>
    below(parentId).flatMap((folder) => {
      const isOpen = below(folder.id).length > 0 ? !folded.has(folder.id) : undefined;
      const { id, name, mayManage: mayMove } = folder;
      return [
        { id, depth, name, isOpen, mayMove, content: <FolderLine folder={folder} /> },
        ...(isOpen ? walk(id, depth + 1) : []),
      ];
    });
  return (
    <Tree
      label={wording.filingPlan}
      rows={walk(null, 0)}
      chosen={chosen}
      onChoose={open}
      onFold={(id, fold) =>
        setFolded((before) => new Set([...before].filter((one) => one !== id).concat(fold ? id : [])))
      }
      onMove={drop}
    />
  );
};

const FolderLine = ({ folder }: { folder: PlanFolder }) => (
  <>
    {folder.code && <span className="num text-ink-3">{folder.code}</span>}
    <span className={`min-w-0 truncate ${folder.state === 'open' ? '' : 'text-ink-2 italic'}`}>{folder.name}</span>
    {STATE[folder.state] && <span className="text-[11px] font-normal text-ochre">{STATE[folder.state]}</span>}
    <span className="ml-auto font-mono text-[10.5px] font-normal text-ink-3">{folder.documents || ''}</span>
  </>
);
