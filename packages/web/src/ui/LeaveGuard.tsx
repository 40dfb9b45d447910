import { useEffect } from 'react';
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

/** Asks before unsaved changes would be lost by navigation; the browser asks when its window is closed. */
export const LeaveGuard = ({ isDirtyNow }: { isDirtyNow: () => boolean }) => {
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => isDirtyNow() && placeOf(currentLocation) !== placeOf(nextLocation),
  );
  useEffect(() => {
    const warn = (event: BeforeUnloadEvent) => isDirtyNow() && event.preventDefault();
    window.addEventListener('beforeunload', warn);
    return () => window.removeEventListener('beforeunload', warn);
  });
  if (blocker.state !== 'blocked') return null;
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
