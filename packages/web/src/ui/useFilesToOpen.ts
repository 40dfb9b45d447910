import type { FileToOpen } from '@kanonos/contract';
import { useEffect, useState } from 'react';

const LOOK_AGAIN_MS = 1500;

/**
 * Which file of a task is shown, and whether all that a signature covers were opened: the server counts that, so it is asked again after
 * a file was chosen, until it has seen them all.
 */
export const useFilesToOpen = (files: readonly FileToOpen[], askAgain: () => void) => {
  const [chosen, setChosen] = useState(files[0]?.id);
  const isAllOpened = files.every((file) => file.opened);
  const isOpened = files.find((file) => file.id === chosen)?.opened ?? true;
  useEffect(() => {
    if (isOpened || !chosen) return;
    const timer = setInterval(askAgain, LOOK_AGAIN_MS);
    return () => clearInterval(timer);
  }, [chosen, isOpened, askAgain]);
  return { chosen, choose: setChosen, isAllOpened };
};
