import { api, type Me } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { createContext, type ReactNode, useContext } from 'react';
import { Navigate, useLocation } from 'react-router';
import { Failed, Loading } from '../ui/states.tsx';
import { setStateWords } from '../ui/stateWords.ts';
import { ask, Problem } from './client.ts';
import { wording } from './wording.ts';

export const SessionContext = createContext<Me | undefined>(undefined);

/** Who is signed in. Only below a `SignedIn`. */
export const useMe = (): Me => {
  const me = useContext(SessionContext);
  if (!me) throw new Error('useMe is used outside of SignedIn');
  return me;
};

/** Shows its children to a signed-in person, and the sign-in page to everyone else, who returns here afterwards. */
export const SignedIn = ({ children }: { children: ReactNode }) => {
  const { data, error, isPending } = useQuery({ ...ask(api.session.me), staleTime: 60_000 });
  const { pathname, search } = useLocation();
  if (isPending) return <Loading what={wording.kanonos} />;
  if (error instanceof Problem && error.document.status === 401)
    return <Navigate to={`/signin?to=${encodeURIComponent(pathname + search)}`} replace />;
  if (error) return <Failed error={error} />;
  setStateWords(data.organisation.stateWords);
  return <SessionContext value={data}>{children}</SessionContext>;
};
