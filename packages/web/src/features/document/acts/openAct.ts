import { useSearchParams } from 'react-router';

/** The act whose dialog is open stands in the address, so that a link can lead straight to it. */
export const useOpenAct = () => {
  const [, setParams] = useSearchParams();
  return (act: string | null) =>
    setParams((before) => {
      const next = new URLSearchParams(before);
      if (act) next.set('act', act);
      else next.delete('act');
      return next;
    });
};
