import { Link } from 'react-router';
import { TextField } from '../../ui/controls.tsx';
import { LeaveGuard } from '../../ui/LeaveGuard.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { DrawingReferences } from '../document/DrawingReferences.tsx';
import { OriginalField } from '../document/OriginalField.tsx';
import type { Common, Start } from './common.ts';
import { FiledByRule, FolderSelect } from './FolderSelect.tsx';
import { TypeChooser } from './TypeChooser.tsx';
import { TypeSection } from './TypeSection.tsx';
import { type DocumentDraft, useDocumentDraft } from './useDocumentDraft.ts';
import { WhatHappensNext } from './WhatHappensNext.tsx';

/** A document that is registered already and seems to be the same: by the bytes of the file, its name, or the number in it. */
const SameDocument = ({ document }: { document: NonNullable<NonNullable<DocumentDraft['known']>['document']> }) => (
  <p className="-mt-1 border-l-3 border-ochre bg-ochre-tint px-3 py-1.5 text-ochre">
    {document.by === 'bytes'
      ? 'The same file is in '
      : document.by === 'name'
        ? 'A file of this name is in '
        : 'Its name matches '}
    <Link className="link num" to={`/d/${encodeURIComponent(document.number)}`}>
      {document.number}
    </Link>{' '}
    {document.title}. Check it in there as a new version, or register another document here.
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
  /** What arrived in the watched folder and is registered here. */
  start: Start | undefined;
}) => {
  const { type, folderId } = common;
  const draft = useDocumentDraft(common, start);
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
          <h1>Register a document</h1>
          {start && (
            <span className="text-ink-2">
              {start.incomingFileId ? 'from the intake folder' : 'saved on the network drive'}: {start.path}
            </span>
          )}
          {model && (
            <span className="text-ink-2">
              like <span className="num">{model}</span>: its metadata, not its history
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
          {type?.filing ? (
            <FiledByRule rule={type.filing} place={draft.preview?.folder ?? null} />
          ) : (
            <FolderSelect folders={common.folders} value={folderId} onChange={common.setFolderId} />
          )}
          <PeoplePicker label="Owner" single value={common.owner} onChange={common.setOwner} />
        </div>
        <OriginalField
          label="File"
          value={draft.upload}
          onChange={draft.setUpload}
          error={draft.errorFor('File')}
          several={several}
          begin={{ templates: draft.templates, value: draft.templateId, onChange: draft.setTemplateId }}
        />
        {draft.upload && <DrawingReferences upload={draft.upload} />}
        {known?.document && <SameDocument document={known.document} />}
        <TextField
          label="Title"
          required
          maxLength={250}
          value={draft.title}
          onChange={(event) => draft.setTitle(event.target.value)}
          error={draft.errorFor('Title')}
          hint={
            draft.title === start?.title
              ? start.titleOrigin && `from ${start.titleOrigin}`
              : known?.title && draft.title === known.title
                ? known.titleFrom === 'name'
                  ? 'from the file name'
                  : 'from the properties of the file'
                : undefined
          }
        />
        {type && <TypeSection type={type} common={common} draft={draft} />}
      </div>
      <WhatHappensNext type={type} draft={draft} mayRepeat={!start} />
    </form>
  );
};
