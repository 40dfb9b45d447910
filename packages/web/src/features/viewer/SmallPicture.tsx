import { useQuery } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { wording } from './wording.ts';

const [TRIES, WAIT_MS, KEPT_MS] = [12, 1500, 10 * 60_000];

/** Not there yet: it is being made. */
class Waiting extends Error {}

const load = async (address: string, signal: AbortSignal): Promise<string | null> => {
  const response = await fetch(address, { credentials: 'same-origin', signal });
  if (response.status === 204) throw new Waiting();
  if (!response.ok) return null;
  const blob = await response.blob();
  return new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result));
    reader.onerror = () => reject(reader.error);
    reader.readAsDataURL(blob);
  });
};

/**
 * A small picture at an address. While it is being made it is asked for again; where a file has none, its substitute is shown, or
 * nothing.
 */
export const SmallPicture = ({
  address,
  name,
  className = 'mx-auto max-h-56',
  instead = null,
}: {
  address: string;
  name: string;
  className?: string;
  instead?: ReactNode;
}) => {
  const { data } = useQuery({
    queryKey: ['viewing', 'smallPicture', address],
    queryFn: ({ signal }) => load(address, signal),
    retry: (tries, error) => error instanceof Waiting && tries < TRIES,
    retryDelay: WAIT_MS,
    staleTime: KEPT_MS,
    refetchOnWindowFocus: false,
  });
  if (!data) return instead;
  return (
    <img
      src={data}
      alt={wording.firstPageOf(name)}
      draggable={false}
      className={`${className} border border-line bg-sheet shadow-sm`}
    />
  );
};
