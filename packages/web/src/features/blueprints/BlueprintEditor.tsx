import { api, type Blueprint, sentenceOf } from '@kanonos/contract';
import { changeFolder, parseOutline, placeholdersOf, planLayOut, toOutline } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { CommandButton, Segments, Select, TextArea, TextField } from '../../ui/controls.tsx';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { besidesMeanwhile, Meanwhile } from '../../ui/Meanwhile.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Refusals } from '../../ui/states.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { type Draft, useDraft } from '../../ui/useDraft.ts';
import { pathOf } from '../filing/paths.ts';
import { type BlueprintFile, BlueprintFiles } from './BlueprintFiles.tsx';
import { BlueprintTree } from './BlueprintTree.tsx';
import { FolderDetail } from './FolderDetail.tsx';
import { FolderPreview } from './FolderPreview.tsx';
import { useBlueprintTree, type Way } from './useBlueprintTree.ts';
import { wording } from './wording.ts';

const FIRST = '{client} | client={client}\n  {project}\n    Drawings\n    Agreements\n    Acceptance';

type Drawn = Pick<Blueprint, 'name' | 'folderId' | 'outline' | 'lookup' | 'retired'> & { files: BlueprintFile[] };
const draftOf = (blueprint: Blueprint | undefined): Drawn => {
  const { name = '', folderId = '', outline = FIRST, lookup = null, retired = false } = blueprint ?? {};
  const read = parseOutline(outline);
  // As the tree writes it, so that a blueprint that is only looked at is none that was changed.
  const files = (blueprint?.files ?? []).map((file) => ({ name: file, uploadId: null }));
  return { name, folderId, outline: read.ok ? toOutline(read.value) : outline, lookup, retired, files };
};

/** A blueprint: its folders built as a tree or written as an outline, where it is laid out and where its values come from. */
export const BlueprintEditor = ({ now }: { now: Blueprint | undefined }) => {
  const form = useDraft(now, draftOf);
  return <Editing key={form.round} form={form} />;
};

const Editing = ({ form }: { form: Draft<Blueprint | undefined, Drawn> }) => {
  const { base: blueprint, draft, edit } = form;
  const { name, folderId, lookup, retired, files } = draft;
  const navigate = useNavigate();
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const lists = useQuery(ask(api.rules.lists));
  const state = useBlueprintTree(draft.outline);
  const { outline, folders: read, refusals } = state;
  useEffect(() => edit({ outline }), [edit, outline]);
  const [reason, setReason] = useState('');
  const command = useCommand(api.blueprints.save, wording.blueprintSaved, ({ id }) => {
    form.saved();
    navigate(`?blueprint=${id}`);
  });
  const values = Object.fromEntries(placeholdersOf(read ?? []).map((key) => [key, `[${key}]`]));
  const planned = read ? planLayOut(read, values, 'here', []) : null;
  const wrong = [...refusals, ...(planned && !planned.ok ? planned.refusals : [])];
  const all = folders.data?.folders ?? [];
  return (
    <form
      className="min-h-0 overflow-y-auto px-5 py-4"
      onSubmit={(event) => {
        event.preventDefault();
        command.mutate({
          body: {
            id: blueprint?.id ?? null,
            name,
            folderId,
            outline,
            lookup,
            retired,
            files,
            rowVersion: blueprint?.rowVersion ?? 0,
            reason,
          },
        });
      }}
    >
      <LeaveGuard isDirtyNow={form.isDirtyNow} />
      <div className="grid max-w-5xl grid-cols-3 max-md:grid-cols-1 gap-x-4 gap-y-3.5">
        <div className="col-span-3 empty:hidden">
          <Meanwhile of={form} />
        </div>
        <TextField
          label={wording.name}
          required
          maxLength={80}
          value={name}
          onChange={(value) => edit({ name: value })}
        />
        <Select
          label={wording.createProjectsIn}
          required
          value={folderId}
          onChange={(value) => edit({ folderId: value })}
          empty={wording.chooseAFolder}
          options={all.map((folder) => ({ value: folder.id, text: pathOf(folder, all) }))}
        />
        <Select
          label={wording.valuesComeFrom}
          value={lookup ?? ''}
          onChange={(value) => edit({ lookup: value || null })}
          hint={wording.theCodeNameAndMetadataOf}
          empty={wording.typedValuesOnly}
          options={lists.data?.lookups.map((list) => ({ value: list.key, text: list.name }))}
        />
        <div className="col-span-3 flex items-end justify-between">
          <Segments<Way>
            label={wording.editAs}
            value={state.way}
            onChange={state.turn}
            options={[
              { value: 'tree', text: wording.tree },
              { value: 'outline', text: wording.outline },
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
                files={files.map((file) => file.name)}
                onChange={(change) => {
                  const { tree, chosen } = state;
                  state.edit(changeFolder(tree, chosen, change), chosen, `${chosen} ${Object.keys(change)}`);
                }}
              />
            ) : (
              <p className="text-ink-3">{wording.addAFolderToStart}</p>
            )}
          </div>
        ) : (
          <OutlineFields outline={outline} planned={planned} state={state} />
        )}
        <BlueprintFiles files={files} onChange={(next) => edit({ files: next })} />
        <div className="col-span-3">
          <Tick checked={retired} onChange={(on) => edit({ retired: on })}>
            {wording.retiredNoNewProjectsCanBe}
          </Tick>
        </div>
        <ReasonField wide oneLine value={reason} onChange={setReason} />
        <div className="flex items-end gap-2">
          <CommandButton busy={command.isPending} disabled={wrong.length > 0 || form.meanwhile !== null}>
            {wording.saveBlueprint}
          </CommandButton>
          {blueprint && (
            <button type="button" className="btn" onClick={() => navigate(`?blueprint=${blueprint.id}`)}>
              {wording.leave}
            </button>
          )}
        </div>
        <div className="col-span-3 empty:hidden">
          <Refusals error={besidesMeanwhile(command.error, form)} />
        </div>
      </div>
    </form>
  );
};

/** The folders as text, with what they will be beside it. */
const OutlineFields = ({
  outline,
  planned,
  state,
}: {
  outline: string;
  planned: ReturnType<typeof planLayOut> | null;
  state: ReturnType<typeof useBlueprintTree>;
}) => (
  <>
    <TextArea
      wide
      label={wording.outline}
      rows={18}
      className="inp num !whitespace-pre [tab-size:2]"
      spellCheck={false}
      value={outline}
      onChange={state.type}
      hint={wording.oneFolderPerLineIndentSubfolders}
    />
    <div>
      <span className="cap">{wording.includes}</span>
      {planned?.ok && (
        <FolderPreview
          folders={planned.value.map(({ depth, name: one, metadata, starters, grants }) => ({
            depth,
            name: one,
            isNew: true,
            metadata,
            starters,
            grants,
          }))}
        />
      )}
    </div>
  </>
);
