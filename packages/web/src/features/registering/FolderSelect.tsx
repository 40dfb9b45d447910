import type { Folder } from '@kanonos/contract';
import { Select } from '../../ui/controls.tsx';

/** Where a folder stands, from its area down. */
export const pathOf = (folder: Folder, folders: readonly Folder[]): string => {
  const parent = folders.find((f) => f.id === folder.parentId);
  return parent ? `${pathOf(parent, folders)} / ${folder.name}` : folder.name;
};

/** Chooses a folder that one may author in. */
export const FolderSelect = ({
  folders,
  value,
  onChange,
}: {
  folders: readonly Folder[];
  value: string;
  onChange: (id: string) => void;
}) => (
  <Select label="Folder" required value={value} onChange={(event) => onChange(event.target.value)}>
    <option value="">Choose where it is filed</option>
    {folders.map((folder) => (
      <option key={folder.id} value={folder.id} disabled={!folder.mayAuthor}>
        {pathOf(folder, folders)}
      </option>
    ))}
  </Select>
);
