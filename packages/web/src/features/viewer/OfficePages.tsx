import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { addressOf, ask } from '../../app/client.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { PdfPages } from './PdfPages.tsx';
import { wording } from './wording.ts';

/** An office file as pages: made by a job the first time, which reports its progress. */
export const OfficePages = ({ file, name, mark }: { file: string; name: string; mark?: string | undefined }) => {
  const { data, error } = useQuery({
    ...ask(api.viewing.pages, { params: { file } }),
    refetchInterval: (query) => (query.state.data?.state === 'waiting' ? 1000 : false),
  });
  if (error) return <Failed error={error} />;
  if (data?.state === 'failed') return <Failed error={new Error(wording.itsPagesCouldNotBeCreated(data.why ?? ''))} />;
  if (data?.state !== 'done') return <Loading what={wording.thePagesWhichAreBeingCreated} />;
  return <PdfPages file={file} address={addressOf(api.viewing.pagesFile, { file })} mark={mark} name={name} />;
};
