import { api, type PersonDetail } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton } from '../../ui/controls.tsx';
import { Failed, Loading, Refusals } from '../../ui/states.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { NameAndMail } from '../people/NameAndMail.tsx';
import { wording } from './wording.ts';

/** Name and mail address of the first administrator. */
export const AdministratorStep = () => {
  const me = useMe();
  const { data, error, isPending, refetch } = useQuery(ask(api.people.detail, { params: { id: me.id } }));
  if (isPending) return <Loading what={wording.theFirstSteps} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return <AccountForm person={data} />;
};

const AccountForm = ({ person }: { person: PersonDetail }) => {
  const form = useDraft(person, ({ name, email }) => ({ name, email }));
  const { draft, edit, base } = form;
  const command = useCommand(api.people.change, wording.profileSaved, form.saved);
  return (
    <form
      className="grid max-w-xl gap-3.5"
      onSubmit={(event) => {
        event.preventDefault();
        command.mutate({
          params: { id: base.id },
          body: { ...draft, organisationRights: base.organisationRights, rowVersion: base.rowVersion },
        });
      }}
    >
      <NameAndMail value={draft} onChange={edit} />
      <p className="text-ink-2">
        {wording.signInName} <b className="num">{base.signInName}</b>. {wording.administratorHint}
      </p>
      <div className="flex items-center gap-3">
        <CommandButton busy={command.isPending} disabled={!form.isDirty}>
          {wording.save}
        </CommandButton>
        <Refusals error={command.error} />
      </div>
    </form>
  );
};
