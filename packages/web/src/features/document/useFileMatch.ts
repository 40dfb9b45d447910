import { type AnswerOf, api, type Upload } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../app/client.ts';

export type FileMatch = AnswerOf<typeof api.documents.match>['files'][number];

/** The reading of an uploaded file: number, title, metadata, and the document that has it already; requested once for each file. */
export const useFileMatch = (upload: Upload | null): FileMatch | undefined => {
  const { data } = useQuery({
    queryKey: ['documents', 'matchFiles', upload?.id],
    queryFn: ({ signal }) => call(api.documents.match, { body: { uploadIds: [upload?.id ?? ''] }, signal }),
    enabled: upload !== null,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return data?.files[0];
};
