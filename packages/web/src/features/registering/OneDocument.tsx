import { Link, useSearchParams } from 'react-router';
import { documentAddress } from '../../ui/addresses.ts';
import { TextField } from '../../ui/controls.tsx';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { DrawingReferences } from '../document/DrawingReferences.tsx';
import { OriginalField } from '../document/OriginalField.tsx';
import type { Common, Start } from './common.ts';
import { PlaceAndOwner } from './PlaceAndOwner.tsx';
import { TypeChooser } from './TypeChooser.tsx';
import { TypeSection } from './TypeSection.tsx';
import { type DocumentDraft, useDocumentDraft } from './useDocumentDraft.ts';
import { WhatHappensNext } from './WhatHappensNext.tsx';
import { wording } from './wording.ts';

/** A document that is registered already and seems to be the same: by the bytes of the file, its name, or the number in it. */
const SameDocument = ({ document }: { document: NonNullable<NonNullable<DocumentDraft['known']>['document']> }) => (
  <p className="-mt-1 border-l-3 border-ochre bg-ochre-tint px-3 py-1.5 text-ochre">
    {document.by === 'bytes'
      ? wording.theSameFileIsIn
      : document.by === 'name'
        ? wording.aFileOfThisNameIs
        : wording.itsNameMatches}
    <Link className="link num" to={documentAddress(document.number)}>
      {document.number}
    </Link>{' '}
    {wording.checkItInThereAsA(document.title)}
  </p>
);

/** One document: number, label and file name follow live while its metadata are given. */
export const OneDocument = ({
  common,
  model,
  several,
  start,
}: {
  common: Common;
  /** The number of the document whose metadata were taken over. */
  model: string | undefined;
  several: (files: File[]) => void;
  /** What arrived in the intake folder and is registered here. */
  start: Start | undefined;
}) => {
  const { type } = common;
  const [params] = useSearchParams();
  const draft = useDocumentDraft(common, start, {
    title: params.get('title') ?? '',
    number: params.get('number') ?? '',
  });
  const { known } = draft;
  return (
    <form
      className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_344px] overflow-y-auto"
      onSubmit={(event) => {
        event.preventDefault();
        void draft.register(false);
      }}
    >
      <LeaveGuard isDirtyNow={draft.isBegun} />
      <div className="flex max-w-3xl flex-col gap-3.5 px-5 py-4">
        <div className="flex items-baseline justify-between">
          <h1>{wording.registerADocument}</h1>
          {start && (
            <span className="text-ink-2">
              {start.incomingFileId ? wording.fromTheIntakeFolder : wording.savedOnTheNetworkDrive}: {start.path}
            </span>
          )}
          {model && (
            <span className="text-ink-2">
              {wording.like} <span className="num">{model}</span>
              {wording.itsMetadataNotItsHistory}
            </span>
          )}
        </div>
        <TypeChooser
          types={common.types}
          recent={common.recent}
          value={type?.id ?? ''}
          onChange={(id) => {
            common.setType(id);
            draft.setNumber('');
          }}
        />
        <div className="grid grid-cols-2 gap-3.5">
          <PlaceAndOwner common={common} path={draft.preview?.folder ?? null} />
        </div>
        <OriginalField
          label={wording.file}
          value={draft.upload}
          onChange={draft.setUpload}
          error={draft.errorFor(wording.file)}
          several={several}
          begin={{ templates: draft.templates, value: draft.templateId, onChange: draft.setTemplateId }}
        />
        {draft.upload && <DrawingReferences upload={draft.upload} />}
        {known?.document && <SameDocument document={known.document} />}
        <TextField
          label={wording.title}
          required
          maxLength={250}
          value={draft.title}
          onChange={draft.setTitle}
          error={draft.errorFor(wording.title)}
          hint={
            draft.title === start?.title
              ? start.titleOrigin && wording.fromTitleOrigin(start.titleOrigin)
              : known?.title && draft.title === known.title
                ? wording.titleFrom[known.titleFrom]
                : undefined
          }
        />
        {type && <TypeSection type={type} common={common} draft={draft} />}
      </div>
      <WhatHappensNext type={type} draft={draft} mayRepeat={!start} />
    </form>
  );
};
