import { useEffect, useState } from 'react';
import { useBlocker } from 'react-router';
import { Actions, Dialog } from './controls.tsx';
import { wording } from './wording.ts';

/** The parts of an address that change while the same form stays open. */
const WITHIN = ['tab'];
const placeOf = ({ pathname, search }: { pathname: string; search: string }) => {
  const params = new URLSearchParams(search);
  for (const name of WITHIN) params.delete(name);
  return `${pathname}?${params}`;
};

/**
 * Asks before unsaved changes would be lost by navigation; the browser asks when its window is closed. With `keep` they are saved first,
 * and it asks only where that fails.
 */
export const LeaveGuard = ({ isDirtyNow, keep }: { isDirtyNow: () => boolean; keep?: () => Promise<boolean> }) => {
  const [asks, setAsks] = useState(false);
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => isDirtyNow() && placeOf(currentLocation) !== placeOf(nextLocation),
  );
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => isDirtyNow() && event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each navigation that is held up
  useEffect(() => {
    if (blocker.state !== 'blocked' || !keep) return setAsks(blocker.state === 'blocked');
    let isOver = false;
    void keep().then((isKept) => {
      if (isOver) return;
      if (isKept) blocker.proceed();
      else setAsks(true);
    });
    return () => {
      isOver = true;
    };
  }, [blocker.state]);
  if (blocker.state !== 'blocked' || !asks) return null;
  return (
    <Dialog open onClose={() => blocker.reset()} title={wording.unsavedChanges}>
      <p>{wording.yourChangesOnThisPageAre}</p>
      <Actions>
        <button type="button" className="btn" onClick={() => blocker.proceed()}>
          {wording.leavePage}
        </button>
        <button type="button" className="btn btn-pri" onClick={() => blocker.reset()}>
          {wording.stayOnPage}
        </button>
      </Actions>
    </Dialog>
  );
};
