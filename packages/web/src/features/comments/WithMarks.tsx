import { api, type ProblemDocument } from '@kanonos/contract';
import { useMutation } from '@tanstack/react-query';
import { addressOf } from '../../app/client.ts';
import { saveFile } from '../../ui/saveFile.ts';
import { toast } from '../../ui/toast.ts';
import { wording } from './wording.ts';

const PDF = 'application/pdf';

/** Downloads a PDF, or the pages of an office file, with its marks and remarks. */
export const WithMarks = ({ file, name }: { file: string; name: string }) => {
  const command = useMutation({
    mutationFn: async () => {
      const response = await fetch(addressOf(api.comments.annotated, { file }), { credentials: 'same-origin' });
      if (!response.ok) throw new Error(((await response.json()) as ProblemDocument).detail);
      return response.blob();
    },
    onSuccess: (blob) => saveFile(`${name.replace(/\.[^.]+$/, '')}.pdf`, blob, PDF),
    onError: (error) => toast.error(error.message),
  });
  return (
    <button
      type="button"
      className="btn !h-6"
      title={wording.pdfWithMarksAndComments}
      disabled={command.isPending}
      onClick={() => command.mutate()}
    >
      {wording.downloadWithComments}
    </button>
  );
};
