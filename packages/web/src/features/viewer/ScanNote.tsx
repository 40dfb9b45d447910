import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { wording } from './wording.ts';

/** Says where the text by which a picture is found was read from it, and how surely. */
export const ScanNote = ({ file, className = 'ml-auto' }: { file: string; className?: string }) => {
  const { data } = useQuery({ ...ask(api.viewing.scan, { params: { file } }), staleTime: 60_000 });
  if (!data?.scan) return null;
  return (
    <span className={`text-[11.5px] text-ink-3 ${className}`}>
      {data.scan.confidence > 0
        ? wording.itsTextWasReadFromThe(data.scan.language.replaceAll('+', ', '), Math.round(data.scan.confidence))
        : wording.noTextWasFoundInThe}
    </span>
  );
};
