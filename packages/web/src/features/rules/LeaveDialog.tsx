import { Actions, Dialog } from '../../ui/controls.tsx';

/** Asked before what was typed and not saved would be lost. */
export const LeaveDialog = ({ stay, leave }: { stay: () => void; leave: () => void }) => (
  <Dialog open onClose={stay} title="Not saved yet">
    <p>What you changed here is not saved. If you leave, it is gone.</p>
    <Actions>
      <button type="button" className="btn" onClick={leave}>
        Leave it
      </button>
      <button type="button" className="btn btn-pri" onClick={stay}>
        Stay here
      </button>
    </Actions>
  </Dialog>
);
