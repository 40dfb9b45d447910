import { ActButton, TextField } from '../../ui/controls.tsx';
import { Refusals } from '../../ui/states.tsx';

/** The end of a list's form: who uses it, why it changes, and the act. */
export const ListFoot = ({
  usedBy,
  reason,
  onReason,
  act,
}: {
  usedBy: readonly string[];
  reason: string;
  onReason: (reason: string) => void;
  act: { isPending: boolean; error: Error | null };
}) => (
  <>
    <p className="col-span-2 text-ink-2">{usedBy.length ? `Used by ${usedBy.join(', ')}.` : 'No type uses it yet.'}</p>
    <TextField label="Reason" required value={reason} onChange={(event) => onReason(event.target.value)} />
    <div className="flex items-end">
      <ActButton busy={act.isPending}>Save the list</ActButton>
    </div>
    <div className="col-span-2 empty:hidden">
      <Refusals error={act.error} />
    </div>
  </>
);
