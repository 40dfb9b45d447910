import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { FolderSelect } from '../registering/FolderSelect.tsx';

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
      `Shortcuts added for ${count(added, 'document', 'documents')}.${refused[0] ? ` ${refused[0].reason}` : ''}`,
    close,
  );
  return (
    <FormDialog
      title={`Add ${count(ids.length, 'document', 'documents')} to another folder`}
      about={<p>Nothing is copied and nobody gains access. The documents stay in their own folder.</p>}
      command={command}
      button="Add shortcuts"
      ready={folder !== ''}
      onSubmit={() => command.mutate({ body: { ids: [...ids], folderId: folder } })}
      onClose={close}
    >
      <FolderSelect folders={folders.data?.folders ?? []} value={folder} onChange={setFolder} />
    </FormDialog>
  );
};
