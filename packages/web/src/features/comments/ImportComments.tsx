import { api } from '@kanonos/contract';
import { useRef, useState } from 'react';
import { uploadFile } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { count } from '../../ui/format.ts';
import { Refusals } from '../../ui/states.tsx';
import { useCommenting } from './Commenting.tsx';
import { wording } from './wording.ts';

/** Reads the annotations of a PDF that somebody marked elsewhere, as comments of whoever brings it. */
export const ImportComments = () => {
  const state = useCommenting();
  const input = useRef<HTMLInputElement>(null);
  const [problem, setProblem] = useState<Error | null>(null);
  const command = useCommand(api.comments.importComments, ({ read, left }) =>
    read
      ? `${count(read, 'comment', 'comments')} imported.`
      : wording.noNewCommentsFound(left ? wording.couldNotBeImported(left) : ''),
  );
  if (!state?.mayComment) return null;
  return (
    <>
      <button
        type="button"
        className="btn btn-quiet !h-6 ml-auto"
        disabled={command.isPending}
        onClick={() => input.current?.click()}
      >
        {wording.importCommentsFromPdf}
      </button>
      <input
        ref={input}
        type="file"
        accept="application/pdf"
        aria-label={wording.pdfWithComments}
        className="hidden"
        onChange={async (event) => {
          const [file] = event.target.files ?? [];
          event.target.value = '';
          if (!file) return;
          setProblem(null);
          try {
            const upload = await uploadFile(file, () => {});
            command.mutate({ params: { document: state.subject.documentId }, body: { uploadId: upload.id } });
          } catch (failure) {
            setProblem(failure as Error);
          }
        }}
      />
      <Refusals error={problem ?? command.error} />
    </>
  );
};
