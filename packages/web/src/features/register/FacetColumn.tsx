import { api, type Facets, type Folder } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { useDocumentDrop } from '../bulk/drag.ts';
import { FACETS } from './state.ts';
import { wording } from './wording.ts';

/** Takes documents that were dropped on a folder or a keyword. */
type Drop = (
  ids: string[],
  on: { on: 'folder'; folderId: string; name: string } | { on: 'keyword'; word: string },
) => void;

/** The count of each filter value, with a bar; picks add up. Above them the folders as a tree. */
export const FacetColumn = ({
  facets,
  picks,
  toggle,
  folders,
  folder,
  reach,
  set,
  q,
  drop,
  close,
}: {
  facets: Facets | undefined;
  picks: (facet: string) => string[];
  toggle: (facet: string, value: string) => void;
  folders: Folder[];
  folder: string | undefined;
  reach: string;
  set: (changes: Record<string, string | undefined>) => void;
  q: string;
  drop: Drop | undefined;
  /** Where the filters cover the rows, on a small screen, they are left by this. */
  close: () => void;
}) => (
  <aside
    aria-label={wording.filters}
    className="overflow-y-auto border-r border-line px-3 py-2.5 max-lg:fixed max-lg:inset-x-0 max-lg:top-12 max-lg:bottom-14 max-lg:z-30 max-lg:bg-sheet"
  >
    <button type="button" className="btn btn-pri mb-3 w-full lg:hidden" onClick={close}>
      {wording.closeFilters}
    </button>
    <FolderTree folders={folders} folder={folder} reach={reach} set={set} drop={drop} />
    {FACETS.map(({ key, title }) => {
      const values = facets?.[key] ?? [];
      if (values.length === 0) return null;
      const most = Math.max(...values.map((v) => v.count));
      return (
        <section key={key} aria-label={title} className="mb-3">
          <h2 className="cap mb-[3px] block">{title}</h2>
          {values.map((value) => {
            const on = picks(key).includes(value.value);
            return (
              <button
                key={value.value}
                type="button"
                aria-pressed={on}
                onClick={() => toggle(key, value.value)}
                className={`grid min-h-6 w-full grid-cols-[minmax(0,1fr)_26px_30px] items-center gap-1.5 rounded-xs px-1 py-0.5 text-left text-[12px] hover:bg-petrol-tint ${on ? 'bg-petrol-tint font-semibold text-petrol' : ''}`}
              >
                <span className="leading-tight break-words hyphens-auto">{value.name}</span>
                <span aria-hidden className="h-[5px] bg-line-2">
                  <span
                    className={`block h-[5px] ${on ? 'bg-petrol' : 'bg-[#8ba0aa]'}`}
                    style={{ width: `${Math.max(6, (value.count / most) * 100)}%` }}
                  />
                </span>
                <span className="text-right font-mono text-[10.5px] font-medium text-ink-2 [font-stretch:80%]">
                  {value.count.toLocaleString('en-GB')}
                </span>
              </button>
            );
          })}
        </section>
      );
    })}
    <Keywords q={q} set={set} drop={drop} />
  </aside>
);

/** The most used keywords: pressed they narrow the list, and documents can be dropped on them. */
const Keywords = ({
  q,
  set,
  drop,
}: {
  q: string;
  set: (changes: Record<string, string | undefined>) => void;
  drop: Drop | undefined;
}) => {
  const { data } = useQuery({ ...ask(api.documents.keywords, { query: {} }), staleTime: 60_000 });
  if (!data?.keywords.length) return null;
  return (
    <section aria-label={wording.keywords} className="mb-3">
      <h2 className="cap mb-[3px] block">{wording.keywords}</h2>
      {data.keywords.slice(0, 8).map(({ word, documents }) => (
        <Keyword
          key={word}
          word={word}
          documents={documents}
          on={q === termOf(word)}
          press={() => set({ q: q === termOf(word) ? undefined : termOf(word) })}
          drop={drop}
        />
      ))}
    </section>
  );
};

const termOf = (word: string) => `keyword:"${word}"`;

const pressed = (on: boolean, press: () => void) => ({ type: 'button', 'aria-pressed': on, onClick: press }) as const;
/** How a line of a facet looks that is on, or that a document is dragged over. */
const line = (on: boolean, over: boolean) =>
  `min-h-6 w-full rounded-xs py-0.5 text-left text-[12px] hover:bg-petrol-tint ${on ? 'bg-petrol-tint font-semibold text-petrol' : ''} ${over ? 'outline-2 outline-petrol' : ''}`;

const Keyword = ({
  word,
  documents,
  on,
  press,
  drop,
}: {
  word: string;
  documents: number;
  on: boolean;
  press: () => void;
  drop: Drop | undefined;
}) => {
  const { over, target } = useDocumentDrop(drop && ((ids) => drop(ids, { on: 'keyword', word })));
  return (
    <button
      {...pressed(on, press)}
      {...target}
      className={`grid grid-cols-[minmax(0,1fr)_30px] items-center gap-1.5 px-1 ${line(on, over)}`}
    >
      <span className="truncate">{word}</span>
      <span className="text-right font-mono text-[10.5px] font-medium text-ink-2">{documents}</span>
    </button>
  );
};

const FolderTree = ({
  folders,
  folder,
  reach,
  set,
  drop,
}: {
  folders: Folder[];
  folder: string | undefined;
  reach: string;
  set: (changes: Record<string, string | undefined>) => void;
  drop: Drop | undefined;
}) => {
  const children = (parent: string | null) => folders.filter((f) => f.parentId === parent);
  const chain = new Set<string>();
  for (let at = folders.find((f) => f.id === folder); at; at = folders.find((f) => f.id === at?.parentId))
    chain.add(at.id);
  const render = (parent: string | null, depth: number) =>
    children(parent).map((f) => (
      <li key={f.id}>
        <FolderButton
          folder={f}
          on={f.id === folder}
          depth={depth}
          sign={children(f.id).length > 0 ? (chain.has(f.id) ? '▾ ' : '▸ ') : ''}
          press={() => set({ folder: f.id === folder ? undefined : f.id })}
          drop={f.mayAuthor ? drop : undefined}
        />
        {chain.has(f.id) && children(f.id).length > 0 && <ul>{render(f.id, depth + 1)}</ul>}
      </li>
    ));
  return (
    <section aria-label={wording.filingPlan} className="mb-3">
      <h2 className="cap mb-[3px] block">{wording.filingPlan}</h2>
      <ul>{render(null, 0)}</ul>
      {folder && (
        <label className="mt-1 flex items-center gap-1.5 px-1 text-[12px] text-ink-2">
          <input
            type="checkbox"
            className="accent-petrol"
            checked={reach === 'below'}
            onChange={(event) => set({ reach: event.target.checked ? undefined : 'here' })}
          />
          {wording.withSubfolders}
        </label>
      )}
    </section>
  );
};

const FolderButton = ({
  folder,
  on,
  depth,
  sign,
  press,
  drop,
}: {
  folder: Folder;
  on: boolean;
  depth: number;
  sign: string;
  press: () => void;
  drop: Drop | undefined;
}) => {
  const { over, target } = useDocumentDrop(
    drop && ((ids) => drop(ids, { on: 'folder', folderId: folder.id, name: folder.name })),
  );
  return (
    <button
      {...pressed(on, press)}
      {...target}
      className={`block truncate pr-1 ${line(on, over)}`}
      style={{ paddingLeft: 4 + depth * 12 }}
    >
      {sign}
      {folder.name}
    </button>
  );
};
