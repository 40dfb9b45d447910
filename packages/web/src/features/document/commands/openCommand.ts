import { useSearchParams } from 'react-router';

/** The address carries the command whose dialog is open, so that a link can lead straight to it. */
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
