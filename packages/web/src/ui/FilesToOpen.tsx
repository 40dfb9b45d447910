import type { FileToOpen } from '@kanonos/contract';
import { wording } from './wording.ts';

/** What keeps a signature: files that it covers and that were not opened yet. */
export const leftToOpen = (files: readonly FileToOpen[]): FileToOpen[] => files.filter((file) => !file.opened);

/**
 * The files that a signature covers, as tabs: each shows whether it was opened, in words and not by colour alone. One file needs no tabs.
 */
export const FileTabs = ({
  files,
  chosen,
  onChoose,
}: {
  files: readonly FileToOpen[];
  chosen: string | undefined;
  onChoose: (id: string) => void;
}) =>
  files.length < 2 ? null : (
    <div
      role="tablist"
      aria-label={wording.files}
      className="flex gap-1 overflow-x-auto border-b border-line bg-film-2 px-3.5 pt-1.5"
    >
      {files.map((file, i) => (
        <button
          key={file.id}
          type="button"
          role="tab"
          aria-selected={file.id === chosen}
          title={file.name}
          onClick={() => onChoose(file.id)}
          className={`-mb-px max-w-[240px] border px-2.5 py-1 text-left whitespace-nowrap ${
            file.id === chosen ? 'border-line border-b-sheet bg-sheet' : 'border-transparent'
          }`}
        >
          <span className="block truncate font-semibold">
            {i + 1}. {file.name}
          </span>
          <span className={`cap ${file.opened ? '' : '!text-ochre'}`}>
            {file.opened ? wording.opened : wording.notOpened}
          </span>
        </button>
      ))}
    </div>
  );

/** Says which files still have to be opened before one can sign, and leads to them. */
export const OpenFirst = ({ files, onChoose }: { files: readonly FileToOpen[]; onChoose: (id: string) => void }) => {
  const left = leftToOpen(files);
  if (left.length === 0) return null;
  return (
    <div className="mb-2 border border-line bg-ochre-tint px-2.5 py-1.5 text-[12px]" role="status">
      <p>{wording.yourSignatureCoversOpenBeforeYou(files.length === 1 ? wording.thisFile : `${files.length} files`)}</p>
      <ul>
        {left.map((file) => (
          <li key={file.id}>
            <button
              type="button"
              className="link min-h-6 max-w-full truncate text-left"
              onClick={() => onChoose(file.id)}
            >
              {file.name}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
};
