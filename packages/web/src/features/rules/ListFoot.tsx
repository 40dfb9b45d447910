import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { besidesMeanwhile, type Told } from '../../ui/Meanwhile.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Refusals } from '../../ui/states.tsx';
import { Editions } from './Editions.tsx';
import { wording } from './wording.ts';

/** The end of a list's form: its users, the reason, the command, and its earlier editions. */
export const ListFoot = ({
  kind,
  list,
  reason,
  onReason,
  command,
  of,
}: {
  kind: 'choices' | 'lookup';
  list: { key: string; usedBy: readonly string[] };
  reason: string;
  onReason: (reason: string) => void;
  command: { isPending: boolean; error: Error | null };
  of: Told;
}) => (
  <>
    <p className="col-span-2 text-ink-2">
      {list.usedBy.length ? wording.usedBy2(list.usedBy.join(', ')) : wording.noTypeUsesItYet}
    </p>
    <ReasonField oneLine value={reason} onChange={onReason} />
    <div className="flex items-end">
      <CommandButton busy={command.isPending} disabled={of.meanwhile !== null}>
        {wording.saveList}
      </CommandButton>
    </div>
    <div className="col-span-2 empty:hidden">
      <Refusals error={besidesMeanwhile(command.error, of)} />
    </div>
    {list.key && <EditionsOf kind={kind} id={list.key} />}
  </>
);

const EditionsOf = ({ kind, id }: { kind: 'choices' | 'lookup'; id: string }) => {
  const { data } = useQuery(ask(api.rules.listEditions, { params: { kind, key: id } }));
  if (!data?.editions.length) return null;
  return (
    <section className="col-span-2 mt-2">
      <h2 className="cap mb-1">{wording.editions}</h2>
      <Editions editions={data.editions} />
    </section>
  );
};
