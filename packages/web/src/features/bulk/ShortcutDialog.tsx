import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { FolderSelect } from '../registering/FolderSelect.tsx';
import { wording } from './wording.ts';

/** Shows documents in a further folder. It gives nobody more rights, and nothing is copied. */
export const ShortcutDialog = ({
  ids,
  into = '',
  close,
}: {
  ids: readonly string[];
  into?: string;
  close: () => void;
}) => {
  const [folder, setFolder] = useState(into);
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const command = useCommand(
    api.filing.addShortcuts,
    ({ added, refused }) =>
      wording.shortcutsAddedFor(count(added, 'document', 'documents'), refused[0] ? ` ${refused[0].reason}` : ''),
    close,
  );
  return (
    <FormDialog
      title={wording.addToAnotherFolder(count(ids.length, 'document', 'documents'))}
      about={<p>{wording.nothingIsCopiedAndNobodyGains}</p>}
      command={command}
      button={wording.addShortcuts}
      ready={folder !== ''}
      onSubmit={() => command.mutate({ body: { ids: [...ids], folderId: folder } })}
      onClose={close}
    >
      <FolderSelect folders={folders.data?.folders ?? []} value={folder} onChange={setFolder} />
    </FormDialog>
  );
};
