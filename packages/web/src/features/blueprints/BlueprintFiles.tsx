import { FileDrop } from '../../ui/FileDrop.tsx';
import { wording } from './wording.ts';

/** A file of a blueprint: one that was just sent has its upload. */
export type BlueprintFile = { name: string; uploadId: string | null };

/** Brackets and bars have a meaning in the outline, where the file is named. */
const nameInOutline = (name: string): string => name.replace(/[()|\\/]/g, '_');

/** The files from which first documents may begin: each is added by dropping it, one of the same name takes the place of the former. */
export const BlueprintFiles = ({
  files,
  onChange,
}: {
  files: readonly BlueprintFile[];
  onChange: (files: BlueprintFile[]) => void;
}) => (
  <section aria-label={wording.files} className="col-span-3 flex flex-col gap-1.5">
    <FileDrop
      label={wording.files}
      about={wording.anyFileADocumentCanBegin}
      value={null}
      onChange={(upload) => {
        if (!upload) return;
        const name = nameInOutline(upload.name);
        onChange([...files.filter((file) => file.name !== name), { name, uploadId: upload.id }]);
      }}
    />
    <ul>
      {files.map((file) => (
        <li key={file.name} className="flex items-center justify-between gap-3 border-b border-line-2 py-1">
          <span className="min-w-0 truncate" title={file.name}>
            {file.name}
          </span>
          <button
            type="button"
            className="btn btn-quiet !h-6"
            aria-label={wording.removeWhat(file.name)}
            onClick={() => onChange(files.filter((one) => one !== file))}
          >
            {wording.remove}
          </button>
        </li>
      ))}
    </ul>
  </section>
);
