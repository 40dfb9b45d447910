import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask, call } from '../../app/client.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { FolderSelect } from '../registering/FolderSelect.tsx';
import { EachResult } from './EachResult.tsx';
import { useEach } from './useEach.ts';
import { wording } from './wording.ts';

/** Registers a new document from each: metadata and content, each with its own number, without history. */
export const CopyDialog = ({ ids, close }: { ids: readonly string[]; close: () => void }) => {
  const [folder, setFolder] = useState('');
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const { run, share, error, result } = useEach((part) =>
    call(api.bulk.copy, { body: { ids: part, folderId: folder || null } }),
  );
  return (
    <FormDialog
      title={wording.copyAsNew(count(ids.length, 'document', 'documents'))}
      about={result ? undefined : <p>{wording.eachCopyGetsItsOwnNumber}</p>}
      command={{ isPending: share !== null, error }}
      button={result ? wording.close : wording.copy}
      onSubmit={() => (result ? close() : void run(ids))}
      onClose={close}
    >
      {result ? (
        <EachResult result={result} did={['copied', 'copied']} />
      ) : (
        <FolderSelect
          folders={folders.data?.folders ?? []}
          value={folder}
          onChange={setFolder}
          empty={wording.theFolderOfEachDocument}
        />
      )}
    </FormDialog>
  );
};
