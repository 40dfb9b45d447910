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
      `${count(added, 'document is', 'documents are')} shown there too.${refused[0] ? ` ${refused[0].reason}` : ''}`,
    close,
  );
  return (
    <FormDialog
      title={`Show ${count(ids.length, 'document', 'documents')} in a further folder`}
      about={<p>Nothing is copied, and nobody gets more rights by it. The document stays where it is filed.</p>}
      command={command}
      button="Show there too"
      ready={folder !== ''}
      onSubmit={() => command.mutate({ body: { ids: [...ids], folderId: folder } })}
      onClose={close}
    >
      <FolderSelect folders={folders.data?.folders ?? []} value={folder} onChange={setFolder} />
    </FormDialog>
  );
};
