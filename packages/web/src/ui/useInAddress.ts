import { useSearchParams } from 'react-router';

/**
 * A piece of a view's state that is kept in its address, so that the view can be shared, reloaded and gone back to: its value, empty
 * where the address names none, and how to change it. Changes take the place of the present entry in the browser's history.
 */
export const useInAddress = (name: string): [string, (value: string) => void] => {
  const [params, setParams] = useSearchParams();
  const set = (value: string) =>
    setParams(
      (before) => {
        const after = new URLSearchParams(before);
        if (value) after.set(name, value);
        else after.delete(name);
        return after;
      },
      { replace: true },
    );
  return [params.get(name) ?? '', set];
};
