import { useMemo } from 'react';
import { useDropzone } from 'react-dropzone';
import { CommandButton } from '../../ui/controls.tsx';
import { count } from '../../ui/format.ts';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { KeywordsField } from '../document/KeywordsField.tsx';
import { MetadataFields } from '../document/MetadataFields.tsx';
import { AboutSection } from './AboutSection.tsx';
import type { Common } from './common.ts';
import { ManyGrid } from './ManyGrid.tsx';
import { cellOf, columnsOf, type Row } from './manyRows.ts';
import { PlaceAndOwner } from './PlaceAndOwner.tsx';
import { TypeChooser } from './TypeChooser.tsx';
import { useManyFiles } from './useManyFiles.ts';
import { wording } from './wording.ts';

/** Many files at once: what is the same for all is given once, the rest in a grid; what is known already is asked once. */
export const ManyFiles = ({ common, files, leave }: { common: Common; files: readonly File[]; leave: () => void }) => {
  const { type, folderId, metadata } = common;
  const { rows, setRows, patch, add, run, running } = useManyFiles(files, type);
  const columns = useMemo(() => columnsOf(type), [type]);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    noClick: true,
    noKeyboard: true,
    onDrop: add,
  });
  const pending = rows.filter((row) => row.state !== 'done' && row.as !== 'leave out');
  const fresh = pending.filter((row) => row.as === 'new');
  const versions = pending.filter((row) => row.as === 'version');
  const known = rows.filter((row) => row.match?.document && row.state !== 'done');
  const done = rows.filter((row) => row.state === 'done').length;
  const lacking = (row: Row) =>
    columns.filter(
      (column) => ['title', 'number', 'label'].includes(column.key) && cellOf(row, column.key).trim() === '',
    );
  const missing = [
    fresh.length > 0 && !type && wording.aType,
    fresh.length > 0 && type?.underParent && !common.about.parent && wording.aParent,
    fresh.length > 0 && !folderId && !type?.filing && wording.aFolder,
    rows.some((row) => row.state === 'sending') && wording.allFilesToFinishUploading,
    ...[...new Set(fresh.flatMap((row) => lacking(row).map((column) => column.label.toLowerCase())))].map((label) =>
      wording.aInEveryRow(label),
    ),
  ].filter((word): word is string => typeof word === 'string');
  const go = () => {
    if (!type && fresh.length > 0) return;
    void run({
      type: type ?? (common.types[0] as NonNullable<typeof type>),
      folderId,
      ownerId: common.owner[0]?.id ?? null,
      departmentId: common.departmentId,
      keywords: common.keywords,
      metadata: metadata.values,
      about: common.about,
    });
  };
  return (
    <div {...getRootProps({ className: `flex min-h-0 flex-1 flex-col ${isDragActive ? 'bg-petrol-tint' : ''}` })}>
      <input {...getInputProps({ 'aria-label': wording.addFiles })} />
      <LeaveGuard isDirtyNow={() => pending.length > 0} />
      <div className="max-h-[46%] overflow-y-auto border-b border-line px-5 py-3">
        <div className="mb-2 flex items-baseline justify-between">
          <h1>{wording.registerFiles(count(rows.length, 'file', 'files'))}</h1>
          <span className="flex gap-2">
            <button type="button" className="btn" onClick={open}>
              {wording.addFiles}
            </button>
            <button type="button" className="btn" disabled={running} onClick={leave}>
              {done ? wording.finish : wording.discardFiles}
            </button>
          </span>
        </div>
        <div className="grid max-w-5xl gap-3">
          <TypeChooser types={common.types} recent={common.recent} value={type?.id ?? ''} onChange={common.setType} />
          <div className="grid grid-cols-3 gap-3">
            <PlaceAndOwner common={common} />
            <KeywordsField value={common.keywords} onChange={common.setKeywords} />
            {type && type.fields.length > 0 && (
              <fieldset className="col-span-3 grid grid-cols-3 gap-3 border-t border-line pt-2">
                <legend className="cap pr-2">{wording.sharedValuesUsedWhereARow}</legend>
                <MetadataFields
                  fields={type.fields.map((field) => ({ ...field, mandatory: false }))}
                  values={metadata.values}
                  onChange={metadata.set}
                  origins={metadata.origins}
                />
              </fieldset>
            )}
            {type && (
              <AboutSection
                type={type}
                common={common}
                title={wording.sharedParentSitesAndConfidentiality}
                titles={false}
                className="grid-cols-3"
              />
            )}
          </div>
        </div>
      </div>
      {known.length > 0 && (
        <div className="flex items-center gap-2 border-b border-ochre-line bg-ochre-tint px-5 py-1.5 text-ochre">
          <span>{wording.alreadyKnownByNumberNameOr(count(known.length, wording.fileIs, wording.filesAre))}</span>
          {(
            [
              ['version', wording.newVersionsOfTheseDocuments],
              ['new', wording.newDocuments],
              ['leave out', wording.leaveOut],
            ] as const
          ).map(([as, words]) => (
            <button
              key={as}
              type="button"
              className="btn !h-6"
              onClick={() =>
                setRows((before) =>
                  before.map((row) => (row.match?.document && row.state !== 'done' ? { ...row, as } : row)),
                )
              }
            >
              {words}
            </button>
          ))}
        </div>
      )}
      <ManyGrid rows={rows} setRows={setRows} patch={patch} columns={columns} common={metadata.values} />
      <footer className="flex items-center gap-3 border-t border-line bg-film-2 px-5 py-2">
        <p aria-live="polite" className="flex-1 text-ink-2">
          {done > 0 && `${count(done, 'is', 'are')} done. `}
          {missing.length > 0
            ? wording.stillMissing(missing.join(', '))
            : pending.length > 0
              ? [
                  fresh.length &&
                    wording.eachWithItsOwnNumber(count(fresh.length, wording.newDocument, wording.newDocuments2)),
                  versions.length &&
                    wording.ofExistingDocuments(count(versions.length, wording.newVersion, wording.newVersions)),
                ]
                  .filter(Boolean)
                  .join('; ')
              : wording.nothingLeftToRegister}
        </p>
        <CommandButton type="button" busy={running} disabled={missing.length > 0 || pending.length === 0} onClick={go}>
          {wording.registerPendingCount(pending.length || '')}
        </CommandButton>
      </footer>
    </div>
  );
};
