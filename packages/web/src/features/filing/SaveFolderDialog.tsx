import { api, type BodyInOf, BULK_AT_ONCE, type PlanFolder } from '@kanonos/contract';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call, refreshAll } from '../../app/client.ts';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { toast } from '../../ui/toast.ts';
import { wording } from './wording.ts';

type Wanted = Omit<BodyInOf<typeof api.filing.change>, 'rowVersion' | 'reason'>;

/** What a change of a folder does to the documents that inherited from it, before it is done. */
export const SaveFolderDialog = ({
  folder,
  wanted,
  place,
  saved,
  close,
}: {
  folder: PlanFolder;
  wanted: Wanted;
  /** Where it would be put; null when it stays. */
  place: string | null;
  saved: () => void;
  close: () => void;
}) => {
  const [reason, setReason] = useState('');
  const [follow, setFollow] = useState(true);
  const effect = useQuery({
    queryKey: ['filing', 'inheritMetadata', folder.id, wanted.parentId, wanted.metadata],
    queryFn: ({ signal }) =>
      call(api.filing.inherit, {
        params: { id: folder.id },
        body: { parentId: wanted.parentId, metadata: wanted.metadata },
        signal,
      }),
  });
  const command = useMutation({
    mutationFn: async () => {
      await call(api.filing.change, {
        params: { id: folder.id },
        body: { ...wanted, rowVersion: folder.rowVersion, reason },
      });
      if (!follow) return;
      for (const { metadata, ids } of effect.data?.changes ?? []) {
        const id = crypto.randomUUID();
        for (let at = 0; at < ids.length; at += BULK_AT_ONCE)
          await call(api.bulk.apply, {
            params: { id },
            body: { ids: ids.slice(at, at + BULK_AT_ONCE), change: { metadata }, reason },
          });
      }
    },
    onSuccess: async () => {
      toast.success(wording.folderSaved);
      saved();
      close();
      await refreshAll();
    },
  });
  const changes = effect.data?.changes ?? [];
  return (
    <FormDialog
      title={place === null ? wording.changeFolder(folder.name) : wording.moveTo(folder.name, place)}
      command={command}
      button={place === null ? wording.save : wording.moveFolder}
      ready={effect.data !== undefined && reason.trim() !== ''}
      onSubmit={() => command.mutate()}
      onClose={close}
    >
      {effect.isPending ? (
        <Loading what={wording.thePreview} />
      ) : effect.error ? (
        <Failed error={effect.error} />
      ) : (
        <>
          {place !== null && <p>{wording.everythingInItMovesAlongNumbers}</p>}
          {changes.length === 0 ? (
            <p className="text-ink-2">{wording.noDocumentHasInheritedTheValues}</p>
          ) : (
            <div className="border-l-3 border-ochre bg-ochre-tint px-3 py-1.5">
              <p>
                {wording.valuesInheritedHere(
                  count(effect.data.documents, wording.documentHas, wording.documentsHave),
                  effect.data.documents === 1 ? 'it' : 'they',
                )}
              </p>
              <ul>
                {changes.slice(0, 6).map(({ metadata, ids }) => (
                  <li key={ids[0]}>
                    {Object.entries(metadata)
                      .map(([key, value]) => wording.keyBecomesValue(key, value ?? 'empty'))
                      .join(', ')}{' '}
                    <span className="text-ink-3">({count(ids.length, 'document', 'documents')})</span>
                  </li>
                ))}
              </ul>
              <Tick checked={follow} onChange={setFollow}>
                {wording.changeTheseTooValuesEnteredBy}
              </Tick>
            </div>
          )}
        </>
      )}
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
