import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';

/** Says where the text by which a picture is found was read from it, and how surely. */
export const ScanNote = ({ file, className = 'ml-auto' }: { file: string; className?: string }) => {
  const { data } = useQuery({ ...ask(api.viewing.scan, { params: { file } }), staleTime: 60_000 });
  if (!data?.scan) return null;
  return (
    <span className={`text-[11.5px] text-ink-3 ${className}`}>
      {data.scan.confidence > 0
        ? `Its text was read from the image (${data.scan.language.replaceAll('+', ', ')}), confidence ${Math.round(data.scan.confidence)} %`
        : 'No text was found in the image'}
    </span>
  );
};
