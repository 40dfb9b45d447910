import type { LaidFolder } from '@kanonos/contract';
import { wording } from './wording.ts';

/** The tree of a project: new folders strong, reused ones quiet, with their settings and first documents. */
export const FolderPreview = ({ folders }: { folders: readonly LaidFolder[] }) => (
  <ul aria-label={wording.folders} className="border border-line bg-sheet py-1.5">
    {folders.map((folder, i) => (
      // biome-ignore lint/suspicious/noArrayIndexKey: a folder is its place in the tree
      <li key={i} className="px-3 py-0.5" style={{ paddingLeft: 12 + folder.depth * 18 }}>
        <span className={folder.isNew ? 'font-[600] text-petrol' : 'text-ink-2'}>{folder.name}</span>
        {!folder.isNew && <span className="ml-2 text-[11px] text-ink-3">{wording.existsAlready}</span>}
        {Object.keys(folder.metadata).length > 0 && folder.isNew && (
          <span className="ml-2 text-[11px] text-ink-3">
            {Object.entries(folder.metadata)
              .map(([key, value]) => `${key} ${value}`)
              .join(', ')}
          </span>
        )}
        {folder.isNew &&
          folder.grants.map((grant) => (
            <span key={grant.unit} className="block pl-4 text-[11.5px] text-ink-3">
              {grant.unit}: {grant.rights.join(', ')}
            </span>
          ))}
        {folder.starters.map((starter) => (
          <span key={starter.title} className="block pl-4 text-[12px]">
            <span className="num !text-[11px] text-ink-3">{starter.type}</span> {starter.title}
            {starter.template && <span className="text-ink-3"> {wording.fromTemplate(starter.template)}</span>}
          </span>
        ))}
      </li>
    ))}
  </ul>
);
