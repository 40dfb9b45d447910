import type { Upload } from '@kanonos/contract';
import { FileText } from 'lucide-react';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { uploadFile } from '../app/client.ts';
import { showSize } from './format.ts';
import { Refusals } from './states.tsx';
import { useUploading } from './uploading.tsx';
import { wording } from './wording.ts';

/** Takes one file by dropping or picking, sends it at once with progress, and passes on the server's answer. */
export const FileDrop = ({
  label,
  value,
  onChange,
  error,
  several,
  about = wording.pdfWordSpreadsheetDrawingPictureMarkdown,
}: {
  label: string;
  value: Upload | null;
  onChange: (upload: Upload | null) => void;
  error?: string | undefined;
  /** Takes over when more than one file is dropped or picked. */
  several?: (files: File[]) => void;
  /** The accepted files, below the invitation. */
  about?: string;
}) => {
  const [share, setShare] = useState<number | null>(null);
  useUploading(share !== null);
  const [problem, setProblem] = useState<Error | null>(null);
  const take = async (file: File | undefined) => {
    if (!file) return;
    setProblem(null);
    setShare(0);
    try {
      onChange(await uploadFile(file, setShare));
    } catch (failure) {
      onChange(null);
      setProblem(failure as Error);
    } finally {
      setShare(null);
    }
  };
  const { getRootProps, getInputProps, isDragActive } = useDropzone({
    multiple: several !== undefined,
    onDrop: (files) => {
      if (several && files.length > 1) several(files);
      else void take(files[0]);
    },
  });
  return (
    <div>
      <span className="cap mb-1 block">{label}</span>
      <div
        {...getRootProps()}
        className={`flex min-h-[74px] cursor-pointer items-center gap-3 border border-dashed px-3 py-2 ${isDragActive ? 'border-petrol bg-petrol-tint' : error ? 'border-vermilion' : 'border-ink-3 bg-film-2'}`}
      >
        <input {...getInputProps({ 'aria-label': label })} />
        <FileText aria-hidden size={22} className="text-ink-3" />
        {share !== null ? (
          <div className="flex-1" role="status">
            {wording.uploadingShare(Math.round(share * 100))}
            <div className="mt-1 h-1.5 bg-line-2">
              <div className="h-1.5 bg-petrol" style={{ width: `${share * 100}%` }} />
            </div>
          </div>
        ) : value ? (
          <div className="min-w-0 flex-1">
            <b className="block truncate font-semibold">{value.name}</b>
            <span className="text-[12px] text-ink-2">
              {showSize(value.size)} · <span className="num">{value.sha256.slice(0, 12)}…</span>{' '}
              {wording.dropAnotherOneToReplaceIt}
            </span>
            {value.warning && <span className="block text-[12px] text-ochre">{value.warning}</span>}
          </div>
        ) : (
          <div>
            <b className="font-semibold">{several ? wording.dropFilesHereOrPressTo : wording.dropAFileHereOrPress}</b>
            <span className="block text-[12px] text-ink-2">{about}</span>
          </div>
        )}
      </div>
      {error && !problem && <p className="mt-1 text-[11.5px] text-vermilion">{error}</p>}
      <div className="mt-1 empty:hidden">
        <Refusals error={problem} />
      </div>
    </div>
  );
};
