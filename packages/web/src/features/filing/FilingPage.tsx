import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { ListAndDetail } from '../../ui/ListAndDetail.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { useLastChosen } from '../../ui/useLastChosen.ts';
import { FolderPanel } from './FolderPanel.tsx';
import { FolderTree } from './FolderTree.tsx';
import { NewFolderDialog } from './NewFolderDialog.tsx';
import { wording } from './wording.ts';

/** The filing plan: areas and folders, their values for documents, their state, and the rights in them. */
export const FilingPage = () => {
  const me = useMe();
  const [params, setParams] = useSearchParams();
  const { data, error, isPending, refetch } = useQuery(ask(api.filing.plan));
  const [adding, setAdding] = useState<string | null | undefined>(undefined);
  const [moving, setMoving] = useState<{ id: string; to: string } | null>(null);
  const chosen = useLastChosen('folder', data?.folders ?? [], (folder) => folder.id, params.get('folder'));
  if (isPending) return <Loading what={wording.theFilingPlan} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const open = (id: string) => setParams({ folder: id });
  return (
    <ListAndDetail>
      <section aria-label={wording.folders} className="flex min-h-0 flex-col border-r border-line bg-film-2">
        <div className="flex items-center justify-between border-b border-line px-3.5 py-2.5">
          <h1>{wording.filingPlan}</h1>
          {me.organisationRights.includes('administer') && (
            <button type="button" className="btn" onClick={() => setAdding(null)}>
              {wording.addArea}
            </button>
          )}
        </div>
        <FolderTree
          folders={data.folders}
          chosen={chosen?.id}
          open={open}
          drop={(id, to) => {
            open(id);
            setMoving({ id, to });
          }}
        />
        <p className="border-t border-line px-3.5 py-1.5 text-[11.5px] text-ink-3">
          {wording.dragAFolderOntoAnotherOne}
        </p>
      </section>
      {chosen ? (
        <FolderPanel
          key={`${chosen.id} ${moving?.id === chosen.id ? moving.to : ''}`}
          now={chosen}
          folders={data.folders}
          fields={data.fields}
          moveTo={moving?.id === chosen.id ? moving.to : undefined}
          add={() => setAdding(chosen.id)}
          moved={() => setMoving(null)}
        />
      ) : (
        <Empty title={wording.chooseAFolder}>{wording.metadataOfAFolderSuchAs}</Empty>
      )}
      {adding !== undefined && (
        <NewFolderDialog
          parent={data.folders.find((folder) => folder.id === adding) ?? null}
          close={() => setAdding(undefined)}
          made={open}
        />
      )}
    </ListAndDetail>
  );
};
