import { api } from '@kanonos/contract';
import { useEffect, useState } from 'react';
import { addressOf } from '../../app/client.ts';

const [TRIES, WAIT_MS] = [12, 1500];

/** A small picture of a file's first page; while it is being made it is asked for again, and where there is none there is nothing. */
export const SmallPicture = ({ file, name }: { file: string; name: string }) => {
  const [tries, setTries] = useState(0);
  const [shown, setShown] = useState(false);
  const [failed, setFailed] = useState(false);
  useEffect(() => {
    if (!failed || tries >= TRIES) return;
    const timer = setTimeout(() => {
      setFailed(false);
      setTries((before) => before + 1);
    }, WAIT_MS);
    return () => clearTimeout(timer);
  }, [failed, tries]);
  if (failed) return null;
  return (
    <img
      src={`${addressOf(api.viewing.small, { file })}?try=${tries}`}
      alt={`First page of ${name}`}
      className={`mx-auto max-h-56 border border-line bg-sheet shadow-sm ${shown ? '' : 'hidden'}`}
      onLoad={() => setShown(true)}
      onError={() => setFailed(true)}
    />
  );
};
