import type { ReactNode } from 'react';
import { TextField } from '../../ui/controls.tsx';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { Meanwhile, type Told } from '../../ui/Meanwhile.tsx';
import { wording } from './wording.ts';

/** The form of a list of either kind: what others saved meanwhile, its name with the key made from it, and what the kind asks for. */
export const ListForm = ({
  form,
  listKey,
  onSubmit,
  children,
}: {
  form: Told & {
    draft: { name: string };
    edit: (change: { name: string }) => void;
    isDirtyNow: () => boolean;
  };
  listKey: string;
  onSubmit: () => void;
  children: ReactNode;
}) => (
  <form
    className="min-h-0 overflow-y-auto px-5 py-4"
    onSubmit={(event) => {
      event.preventDefault();
      onSubmit();
    }}
  >
    <LeaveGuard isDirtyNow={form.isDirtyNow} />
    <div className="grid max-w-4xl grid-cols-2 max-md:grid-cols-1 gap-x-4 gap-y-3.5">
      <div className="col-span-2 empty:hidden">
        <Meanwhile of={form} />
      </div>
      <TextField
        label={wording.name}
        required
        maxLength={80}
        value={form.draft.name}
        onChange={(value) => form.edit({ name: value })}
        hint={wording.keyKey(listKey)}
      />
      {children}
    </div>
  </form>
);
