import { api } from '@kanonos/contract';
import { useMutation } from '@tanstack/react-query';
import { call, uploadFile } from '../app/client.ts';
import { Refusals } from './states.tsx';
import { toast } from './toast.ts';
import { wording } from './wording.ts';

/** Reads a CSV or XLSX file as rows of cells, headings first; the server reads it, as it reads every table. */
export const ReadTable = ({ onRead }: { onRead: (rows: string[][]) => void }) => {
  const read = useMutation({
    mutationFn: async (file: File) => {
      const { id } = await uploadFile(file, () => {});
      return call(api.documents.table, { params: { id } });
    },
    onSuccess: ({ rows, note }) => {
      if (note) toast.warning(wording.theFileWas(note));
      onRead(rows);
    },
  });
  return (
    <div className="mt-1">
      <label className={`btn !inline-flex cursor-pointer ${read.isPending ? 'opacity-60' : ''}`}>
        {read.isPending ? wording.reading : wording.readFromFile}
        <input
          type="file"
          accept=".csv,.txt,.tsv,.xlsx,text/csv,text/plain"
          className="sr-only"
          disabled={read.isPending}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            event.target.value = '';
            if (file) read.mutate(file);
          }}
        />
      </label>
      <Refusals error={read.error} />
    </div>
  );
};
