import { api } from '@kanonos/contract';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { wording } from './wording.ts';

/** Over every page while an administrator sees the application as somebody else; nothing otherwise. */
export const SeeingAs = () => {
  const me = useMe();
  const stop = useCommand(api.rights.stopSeeingAs);
  if (!me.seenBy) return null;
  return (
    <div
      role="status"
      className="flex items-center gap-3 border-b border-ochre-line bg-ochre-tint px-4 py-1.5 text-ochre"
    >
      <span className="flex-1">{wording.youSeeAs(me.name, me.seenBy)}</span>
      <CommandButton type="button" tone="plain" busy={stop.isPending} onClick={() => stop.mutate({})}>
        {wording.stopSeeingAs}
      </CommandButton>
    </div>
  );
};
