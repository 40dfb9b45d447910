import { api, type Blueprint, sentenceOf } from '@kanonos/contract';
import { changeFolder, placeholdersOf, planLayOut } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ask } from '../../app/client.ts';
import { useAct } from '../../app/useAct.ts';
import { ActButton, Segments, Select, TextArea, TextField } from '../../ui/controls.tsx';
import { Refusals } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { pathOf } from '../filing/paths.ts';
import { BlueprintTree } from './BlueprintTree.tsx';
import { FolderDetail } from './FolderDetail.tsx';
import { FolderPreview } from './FolderPreview.tsx';
import { useBlueprintTree, type Way } from './useBlueprintTree.ts';

const FIRST = '{client} | client={client}\n  {project}\n    Drawings\n    Agreements\n    Acceptance';

/** A blueprint: its folders built as a tree or written as an outline, where it is laid out and where its values come from. */
export const BlueprintEditor = ({ blueprint }: { blueprint: Blueprint | undefined }) => {
  const navigate = useNavigate();
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const lists = useQuery(ask(api.rules.lists));
  const [name, setName] = useState(blueprint?.name ?? '');
  const [folderId, setFolderId] = useState(blueprint?.folderId ?? '');
  const state = useBlueprintTree(blueprint?.outline ?? FIRST);
  const { outline, folders: read, refusals } = state;
  const [lookup, setLookup] = useState(blueprint?.lookup ?? '');
  const [retired, setRetired] = useState(blueprint?.retired ?? false);
  const [reason, setReason] = useState('');
  const act = useAct(api.blueprints.save, 'The blueprint is saved.', ({ id }) => navigate(`?blueprint=${id}`));
  const values = Object.fromEntries(placeholdersOf(read ?? []).map((key) => [key, `[${key}]`]));
  const planned = read ? planLayOut(read, values, 'here', []) : null;
  const wrong = [...refusals, ...(planned && !planned.ok ? planned.refusals : [])];
  const all = folders.data?.folders ?? [];
  return (
    <form
      className="min-h-0 overflow-y-auto px-5 py-4"
      onSubmit={(event) => {
        event.preventDefault();
        act.mutate({
          body: {
            id: blueprint?.id ?? null,
            name,
            folderId,
            outline,
            lookup: lookup || null,
            retired,
            rowVersion: blueprint?.rowVersion ?? 0,
            reason,
          },
        });
      }}
    >
      <div className="grid max-w-5xl grid-cols-3 gap-x-4 gap-y-3.5">
        <TextField
          label="Name"
          required
          maxLength={80}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <Select label="Laid out in" required value={folderId} onChange={(event) => setFolderId(event.target.value)}>
          <option value="">choose a folder</option>
          {all.map((folder) => (
            <option key={folder.id} value={folder.id}>
              {pathOf(folder, all)}
            </option>
          ))}
        </Select>
        <Select
          label="Values come from"
          value={lookup}
          onChange={(event) => setLookup(event.target.value)}
          hint="An entry's code, name and facts fill the placeholders of the same name"
        >
          <option value="">typing alone</option>
          {lists.data?.lookups.map((list) => (
            <option key={list.key} value={list.key}>
              {list.name}
            </option>
          ))}
        </Select>
        <div className="col-span-3 flex items-end justify-between">
          <Segments<Way>
            label="Edit as"
            value={state.way}
            onChange={state.turn}
            options={[
              { value: 'tree', text: 'Tree' },
              { value: 'outline', text: 'Outline' },
            ]}
          />
          <ul className="text-vermilion" aria-live="polite">
            {[...new Set(wrong.map(({ code, params }) => sentenceOf(code, params)))].map((sentence) => (
              <li key={sentence}>{sentence}</li>
            ))}
          </ul>
        </div>
        {state.way === 'tree' ? (
          <div className="col-span-3 grid grid-cols-[minmax(280px,2fr)_3fr] items-start gap-4">
            <BlueprintTree state={state} />
            {state.folder ? (
              <FolderDetail
                key={state.chosen.join('.')}
                folder={state.folder}
                onChange={(change) => {
                  const { tree, chosen } = state;
                  state.edit(changeFolder(tree, chosen, change), chosen, `${chosen} ${Object.keys(change)}`);
                }}
              />
            ) : (
              <p className="text-ink-3">Add a folder to begin.</p>
            )}
          </div>
        ) : (
          <>
            <div className="col-span-2">
              <TextArea
                label="Outline"
                rows={18}
                className="inp num !whitespace-pre [tab-size:2]"
                spellCheck={false}
                value={outline}
                onChange={(event) => state.type(event.target.value)}
                hint="A folder a line, deeper ones indented. {project} is asked for. Behind a bar what the folder says: client={client}. With a plus a document that it begins with: + MIN First meeting, or + MIN (Minutes) First meeting from a template. With a star who has which rights: * group/AUTH author, comment"
              />
            </div>
            <div>
              <span className="cap">Gives</span>
              {planned?.ok && (
                <FolderPreview
                  folders={planned.value.map(({ depth, name: one, facts, starters, grants }) => ({
                    depth,
                    name: one,
                    isNew: true,
                    facts,
                    starters,
                    grants,
                  }))}
                />
              )}
            </div>
          </>
        )}
        <div className="col-span-3">
          <Tick checked={retired} onChange={setRetired}>
            Retired: no new projects from it
          </Tick>
        </div>
        <div className="col-span-2">
          <TextField label="Reason" required value={reason} onChange={(event) => setReason(event.target.value)} />
        </div>
        <div className="flex items-end gap-2">
          <ActButton busy={act.isPending} disabled={wrong.length > 0}>
            Save the blueprint
          </ActButton>
          {blueprint && (
            <button type="button" className="btn" onClick={() => navigate(`?blueprint=${blueprint.id}`)}>
              Leave
            </button>
          )}
        </div>
        <div className="col-span-3 empty:hidden">
          <Refusals error={act.error} />
        </div>
      </div>
    </form>
  );
};
