import type { Folder } from '@kanonos/contract';
import { Select } from '../../ui/controls.tsx';
import { pathOf } from '../filing/paths.ts';
import { wording } from './wording.ts';

/** Chooses a folder: one that one may author in, or any. */
export const FolderSelect = ({
  folders,
  value,
  onChange,
  empty,
  any = false,
}: {
  folders: readonly Folder[];
  value: string;
  onChange: (id: string) => void;
  /** The label of an empty choice, where choosing is optional. */
  empty?: string;
  any?: boolean;
}) => (
  <Select label={wording.folder} required={!empty} value={value} onChange={onChange}>
    <option value="">{empty ?? wording.chooseAFolder}</option>
    {folders.map((folder) => (
      <option key={folder.id} value={folder.id} disabled={!any && !folder.mayAuthor}>
        {pathOf(folder, folders)}
      </option>
    ))}
  </Select>
);

/** Where the rule of the type files it; folders that are not there yet are made when it is registered. */
export const FiledByRule = ({
  rule,
  place,
}: {
  rule: string;
  place: { names: readonly string[]; made: number } | null;
}) => (
  <div>
    <span className="cap mb-1 block">{wording.folderByTheRuleOfThe}</span>
    <p className="min-h-[30px] border border-line bg-film-2 px-2.5 py-1">
      {place ? (
        place.names.map((name, i) => (
          <span key={name}>
            {i > 0 && <span className="text-ink-3"> / </span>}
            <span className={i >= place.names.length - place.made ? 'font-semibold text-petrol' : ''}>{name}</span>
          </span>
        ))
      ) : (
        <span className="num">{rule}</span>
      )}
    </p>
    {place && place.made > 0 && <p className="mt-1 text-[11.5px] text-petrol">{wording.newFoldersAreCreated}</p>}
  </div>
);
