import type { PlanFolder } from '@kanonos/contract';
import { FOLDER_STATES } from '@kanonos/core';
import { useState } from 'react';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { Select, TextField } from '../../ui/controls.tsx';
import { DepartmentSelect } from '../../ui/DepartmentSelect.tsx';
import { count } from '../../ui/format.ts';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { Meanwhile } from '../../ui/Meanwhile.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { FolderKin } from './FolderKin.tsx';
import { FolderRights } from './FolderRights.tsx';
import { planPathOf } from './paths.ts';
import { SaveFolderDialog } from './SaveFolderDialog.tsx';
import { wording } from './wording.ts';

const ABOUT_STATE: Record<PlanFolder['state'], string> = {
  'in preparation': wording.visibleOnlyToAuthorsOfThis,
  open: wording.inUse,
  closed: wording.nothingInItCanChangeDocuments,
  kept: wording.asClosedForTheRetentionPeriod,
};

/** One folder: its name and place, state, metadata, department and rights. What is typed here is saved with a reason. */
export const FolderPanel = ({
  now,
  folders,
  fields,
  moveTo,
  add,
  moved,
}: {
  now: PlanFolder;
  folders: readonly PlanFolder[];
  fields: readonly { key: string; label: string }[];
  moveTo: string | undefined;
  add: () => void;
  moved: () => void;
}) => {
  const me = useMe();
  const form = useDraft(
    now,
    ({ parentId, name, code, metadata, departmentId, state }) => ({
      parentId,
      name,
      code,
      metadata,
      departmentId,
      state,
    }),
    moveTo === undefined ? {} : { parentId: moveTo },
  );
  const { base: folder, draft, edit } = form;
  const { parentId, metadata } = draft;
  const [saving, setSaving] = useState(moveTo !== undefined);
  const above = folders.find((one) => one.id === parentId)?.effective ?? {};
  const inherited = [
    ...fields,
    ...Object.keys(metadata)
      .filter((key) => !fields.some((field) => field.key === key))
      .map((key) => ({ key, label: key })),
  ];
  const isBelow = (one: PlanFolder): boolean => {
    const parent = folders.find((other) => other.id === one.parentId);
    return one.id === folder.id || (parent !== undefined && isBelow(parent));
  };
  return (
    <section aria-label={wording.folder} className="flex min-h-0 flex-col">
      <div className="flex flex-wrap items-center gap-3 border-b border-line px-5 py-2.5">
        <h2 className="min-w-0 truncate !text-[16px]">{planPathOf(folder, folders)}</h2>
        <span className="ml-auto flex flex-wrap gap-2">
          <Link className="btn" to={`/register?folder=${folder.id}`}>
            {count(folder.documents, 'document', 'documents')}
          </Link>
          {folder.mayManage && (
            <button type="button" className="btn" onClick={add}>
              {wording.addSubfolder}
            </button>
          )}
        </span>
      </div>
      <Meanwhile of={form} />
      <LeaveGuard isDirtyNow={form.isDirtyNow} />
      <div className="min-h-0 flex-1 overflow-y-auto px-5 py-4">
        <FolderFields
          above={above}
          inherited={inherited}
          draft={draft}
          edit={edit}
          folder={folder}
          folders={folders}
          isBelow={isBelow}
          me={me}
          metadata={metadata}
          parentId={parentId}
        />
        <FolderKin folder={folder} folders={folders} fields={fields} />
        {folder.mayManage && <FolderRights folder={folder} />}
      </div>
      {form.isDirty && (
        <footer className="flex items-center gap-3 border-t border-line bg-film-2 px-5 py-2">
          <p className="flex-1 text-ink-2">{wording.noChangesYet}</p>
          <button
            type="button"
            className="btn"
            onClick={() => {
              form.anew();
              moved();
            }}
          >
            {wording.discard}
          </button>
          <button
            type="button"
            className="btn btn-pri"
            disabled={form.meanwhile !== null}
            onClick={() => setSaving(true)}
          >
            {wording.previewEffect}
          </button>
        </footer>
      )}
      {saving && (
        <SaveFolderDialog
          folder={folder}
          wanted={draft}
          place={
            parentId === folder.parentId ? null : (folders.find((one) => one.id === parentId)?.name ?? wording.topLevel)
          }
          saved={form.saved}
          close={() => {
            setSaving(false);
            moved();
          }}
        />
      )}
    </section>
  );
};

type FolderDraft = Pick<PlanFolder, 'parentId' | 'name' | 'code' | 'metadata' | 'departmentId' | 'state'>;

/** The settings of a folder: name, code, state, filing rule and values for the documents in it. */
const FolderFields = ({
  above,
  inherited,
  draft,
  edit,
  folder,
  folders,
  isBelow,
  me,
  metadata,
  parentId,
}: {
  above: Record<string, string>;
  inherited: { key: string; label: string }[];
  draft: FolderDraft;
  edit: (change: Partial<FolderDraft>) => void;
  folder: PlanFolder;
  folders: readonly PlanFolder[];
  isBelow: (one: PlanFolder) => boolean;
  me: ReturnType<typeof useMe>;
  metadata: Record<string, string>;
  parentId: string | null;
}) => (
  <fieldset disabled={!folder.mayManage} className="grid max-w-4xl grid-cols-3 max-md:grid-cols-1 gap-x-4 gap-y-3.5">
    <TextField
      label={wording.name}
      required
      maxLength={80}
      value={draft.name}
      onChange={(value) => edit({ name: value })}
    />
    <Select
      label={wording.locatedIn}
      value={parentId ?? ''}
      onChange={(value) => edit({ parentId: value || null })}
      empty={wording.topLevelAsAnArea}
      options={folders.filter((one) => !isBelow(one)).map((one) => ({ value: one.id, text: planPathOf(one, folders) }))}
    />
    {parentId === null ? (
      <TextField
        label={wording.code}
        optional
        maxLength={8}
        className="inp num"
        value={draft.code ?? ''}
        disabled={!me.organisationRights.includes('administer')}
        onChange={(value) => edit({ code: value || null })}
        hint={wording.usedInNumbersThatCountBy}
      />
    ) : (
      <DepartmentSelect
        label={wording.ownerDepartment}
        value={draft.departmentId}
        onChange={(departmentId) => edit({ departmentId })}
      />
    )}
    <Select
      label={wording.state}
      value={draft.state}
      onChange={(value) => edit({ state: value as PlanFolder['state'] })}
      hint={ABOUT_STATE[draft.state]}
      options={FOLDER_STATES.map((one) => ({ value: one, text: one }))}
    />
    {inherited.length > 0 && (
      <fieldset className="col-span-3 grid grid-cols-3 max-md:grid-cols-1 gap-x-4 gap-y-3 border-t border-line pt-3">
        <legend className="cap pr-2">{wording.defaultMetadataOfItsDocuments}</legend>
        {inherited.map((field) => (
          <TextField
            key={field.key}
            label={field.label}
            optional
            value={metadata[field.key] ?? ''}
            placeholder={above[field.key] ?? ''}
            onChange={(value) => edit({ metadata: { ...metadata, [field.key]: value } })}
            hint={!metadata[field.key] && above[field.key] ? wording.fromTheParentFolder : undefined}
          />
        ))}
      </fieldset>
    )}
  </fieldset>
);
