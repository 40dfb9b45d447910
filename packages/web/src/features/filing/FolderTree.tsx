import type { PlanFolder } from '@kanonos/contract';
import { type KeyboardEvent, useState } from 'react';

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
  const [shut, setShut] = useState<ReadonlySet<string>>(new Set());
  const [over, setOver] = useState<string | null>(null);
  const below = (parentId: string | null) => folders.filter((folder) => folder.parentId === parentId);
  const rows: { folder: PlanFolder; depth: number }[] = [];
  const walk = (parentId: string | null, depth: number) => {
    for (const folder of below(parentId)) {
      rows.push({ folder, depth });
      if (!shut.has(folder.id)) walk(folder.id, depth + 1);
    }
  };
  walk(null, 0);
  const toggle = (id: string, to?: boolean) =>
    setShut((before) => {
      const next = new Set(before);
      if (to ?? !next.has(id)) next.add(id);
      else next.delete(id);
      return next;
    });
  const onKeyDown = (event: KeyboardEvent) => {
    const at = rows.findIndex(({ folder }) => folder.id === chosen);
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const next = step === undefined ? undefined : rows[at + step];
    if (next) {
      event.preventDefault();
      open(next.folder.id);
      (event.currentTarget as HTMLElement).querySelector<HTMLElement>(`[data-folder="${next.folder.id}"]`)?.focus();
    } else if (chosen && event.key === 'ArrowLeft') toggle(chosen, true);
    else if (chosen && event.key === 'ArrowRight') toggle(chosen, false);
  };
  return (
    <div role="tree" aria-label="Filing plan" className="min-h-0 flex-1 overflow-y-auto py-1.5" onKeyDown={onKeyDown}>
      {rows.map(({ folder, depth }) => {
        const hasBelow = below(folder.id).length > 0;
        return (
          <div
            key={folder.id}
            role="treeitem"
            data-folder={folder.id}
            aria-level={depth + 1}
            aria-selected={folder.id === chosen}
            {...(hasBelow ? { 'aria-expanded': !shut.has(folder.id) } : {})}
            tabIndex={folder.id === chosen || (!chosen && depth === 0 && folder === rows[0]?.folder) ? 0 : -1}
            draggable={folder.mayManage}
            onDragStart={(event) => event.dataTransfer.setData('text/plain', folder.id)}
            onDragOver={(event) => {
              event.preventDefault();
              setOver(folder.id);
            }}
            onDragLeave={() => setOver(null)}
            onDrop={(event) => {
              event.preventDefault();
              setOver(null);
              const id = event.dataTransfer.getData('text/plain');
              if (id && id !== folder.id) drop(id, folder.id);
            }}
            onClick={() => open(folder.id)}
            className={`flex cursor-pointer items-baseline gap-1 border-l-3 py-[3px] pr-3 ${folder.id === chosen ? 'border-petrol bg-sheet font-[600]' : over === folder.id ? 'border-transparent bg-petrol-tint' : 'border-transparent hover:bg-film'}`}
            style={{ paddingLeft: 8 + depth * 16 }}
          >
            <button
              type="button"
              tabIndex={-1}
              aria-label={hasBelow ? `${shut.has(folder.id) ? 'Open' : 'Fold'} ${folder.name}` : undefined}
              aria-hidden={!hasBelow}
              className="w-4 text-[10px] text-ink-3"
              onClick={(event) => {
                event.stopPropagation();
                if (hasBelow) toggle(folder.id);
              }}
            >
              {hasBelow ? (shut.has(folder.id) ? '▸' : '▾') : ''}
            </button>
            {folder.code && <span className="num text-ink-3">{folder.code}</span>}
            <span className={`min-w-0 truncate ${folder.state === 'open' ? '' : 'text-ink-2 italic'}`}>
              {folder.name}
            </span>
            {STATE[folder.state] && <span className="text-[11px] font-normal text-ochre">{STATE[folder.state]}</span>}
            <span className="ml-auto font-mono text-[10.5px] font-normal text-ink-3">{folder.documents || ''}</span>
          </div>
        );
      })}
    </div>
  );
};
