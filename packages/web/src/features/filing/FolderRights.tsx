import { api, type PlanFolder } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { EditRights } from '../rights/EditRights.tsx';
import { GrantList } from '../rights/GrantList.tsx';
import { wording } from './wording.ts';

/** Who may do what in a folder, and changing it. */
export const FolderRights = ({ folder }: { folder: PlanFolder }) => {
  const { data } = useQuery(ask(api.filing.grants, { params: { id: folder.id } }));
  const [editing, setEditing] = useState(false);
  const close = () => setEditing(false);
  const command = useCommand(api.filing.setGrants, wording.rightsSaved, close);
  if (!data) return null;
  return (
    <div className="mt-5 max-w-4xl">
      <div className="mb-1 flex items-center justify-between">
        <h3 className="cap">{wording.rights}</h3>
        <button type="button" className="btn !h-6" onClick={() => setEditing(true)}>
          {wording.editRights}
        </button>
      </div>
      <GrantList own={data.own} above={data.above} place={wording.thisFolder} />
      {editing && (
        <EditRights
          name={folder.name}
          about={wording.anEntryHereReplacesWhatThe}
          now={data}
          command={command}
          save={(grants, reason, { rowVersion }) =>
            command.mutate({ params: { id: folder.id }, body: { grants, reason, rowVersion } })
          }
          close={close}
        />
      )}
    </div>
  );
};
