import { api } from '@kanonos/contract';
import { useEffect } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { addressOf } from '../../app/client.ts';
import { Loading } from '../../ui/states.tsx';
import { wording } from './wording.ts';

/** A short address of a file that lasts: `/f/NUMBER`, with `rev` and `v`. Whoever is signed in is led to the file itself. */
export const LastingFile = () => {
  const { number = '' } = useParams();
  const [params] = useSearchParams();
  const address = addressOf(api.documents.lastingFile, { document: number }, Object.fromEntries(params));
  useEffect(() => location.replace(address), [address]);
  return <Loading what={wording.theFileOf(number)} />;
};
