import { useSearchParams } from 'react-router';

/** The command whose dialog is open stands in the address, so that a link can lead straight to it. */
export const useOpenCommand = () => {
  const [, setParams] = useSearchParams();
  return (command: string | null) =>
    setParams((before) => {
      const next = new URLSearchParams(before);
      if (command) next.set('command', command);
      else next.delete('command');
      return next;
    });
};
