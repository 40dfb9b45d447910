import { api, type RightReason } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { EditRights } from './EditRights.tsx';
import { GrantList } from './GrantList.tsx';
import { SeeAsDialog } from './SeeAsDialog.tsx';
import { wording } from './wording.ts';

/** Rights on one document: who may do what here and why, and the entries beside those of its folders. */
export const RightsPanel = ({ number }: { number: string }) => (
  <div className="flex flex-col gap-4 px-3 py-2.5 text-[12.5px]">
    <WhoMay number={number} />
  </div>
);

/** What I or another person may do, with each reason. */
const WhoMay = ({ number }: { number: string }) => {
  const me = useMe();
  const [other, setOther] = useState<{ id: string; name: string } | undefined>(undefined);
  const [seeing, setSeeing] = useState(false);
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.rights.explain, { params: { document: number }, query: { person: other?.id } }),
    placeholderData: (before) => before,
  });
  if (isPending) return <Loading what={wording.theRights} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const mine = data.person.id === me.id;
  const rights = data.rights.join(', ');
  return (
    <>
      <section aria-label={wording.whoMayDoWhat}>
        <h2 className="mb-1">{wording.whoMayDoWhat}</h2>
        {data.mayAskOthers && (
          <PeoplePicker
            label={wording.person}
            single
            outside
            value={[other ?? { id: me.id, name: me.name }]}
            onChange={([person]) => setOther(person && person.id !== me.id ? person : undefined)}
          />
        )}
        <p className="mt-2 font-[550]">
          {data.rights.length === 0
            ? mine
              ? wording.youMayNothing
              : wording.mayNothing(data.person.name)
            : mine
              ? wording.youMay(rights)
              : wording.mayDo(data.person.name, rights)}
        </p>
        <ul aria-label={wording.theReasons} className="mt-1 border-l-2 border-line pl-2.5">
          {data.reasons.map((reason) => (
            <li key={`${reason.why} ${reason.folder} ${reason.subject}`} className="py-0.5">
              <Reason reason={reason} />
            </li>
          ))}
        </ul>
        {!mine && me.organisationRights.includes('administer') && (
          <button type="button" className="btn mt-2" onClick={() => setSeeing(true)}>
            {wording.seeAsPerson(data.person.name)}
          </button>
        )}
        {seeing && <SeeAsDialog person={data.person} close={() => setSeeing(false)} />}
      </section>
      {data.mayChange && <Entries number={number} />}
    </>
  );
};

const Reason = ({ reason: { why, folder, subject, rights, withheld } }: { reason: RightReason }) => {
  const given = rights.join(', ');
  if (why === 'confidentiality') return <span className="text-vermilion">{wording.takenBy(given, subject)}</span>;
  if (withheld)
    return (
      <span className="text-vermilion">
        {folder ? wording.allWithheldOnFolder(subject, folder) : wording.allWithheldOnDocument(subject)}
      </span>
    );
  const by =
    why === 'owner'
      ? wording.asItsOwner
      : why === 'assigned in a step'
        ? wording.whileATaskWaits
        : why === 'asked to read'
          ? wording.toReadIt
          : folder
            ? wording.entryOnFolder(subject, folder)
            : wording.entryOnDocument(subject);
  return (
    <>
      <b className="font-[550]">{given || wording.nothing}</b> <span className="text-ink-2">{by}</span>
    </>
  );
};

/** The entries of the document and of its folders, changed by who manages it. */
const Entries = ({ number }: { number: string }) => {
  const [editing, setEditing] = useState(false);
  const close = () => setEditing(false);
  const command = useCommand(api.rights.setGrants, wording.rightsSaved, close);
  const { data, error, isPending, refetch } = useQuery(ask(api.rights.grants, { params: { document: number } }));
  if (isPending) return <Loading what={wording.theRights} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <section aria-label={wording.entriesOfThis}>
      <div className="mb-1 flex items-center justify-between">
        <h2>{wording.entriesOfThis}</h2>
        <button type="button" className="btn !h-6" onClick={() => setEditing(true)}>
          {wording.editRights}
        </button>
      </div>
      <GrantList own={data.own} above={data.above} place={wording.thisDocument} />
      {editing && (
        <EditRights
          name={number}
          about={wording.anEntryHereReplacesThat}
          now={data}
          command={command}
          save={(grants, reason, { tag }) =>
            command.mutate({ params: { document: number }, body: { grants, reason, tag } })
          }
          close={close}
        />
      )}
    </section>
  );
};
