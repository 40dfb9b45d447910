import { api, type DocumentPage } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextArea, TextField } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { DepartmentSelect } from '../../ui/DepartmentSelect.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { useDraft } from '../../ui/useDraft.ts';
import { AboutFields } from './AboutFields.tsx';
import { aboutOf, toAbout } from './about.ts';
import { KeywordsField } from './KeywordsField.tsx';
import { MetadataFields } from './MetadataFields.tsx';
import { toMetadata, toValues } from './metadataValues.ts';
import { wording } from './wording.ts';

const draftOf = (page: DocumentPage) => ({
  title: page.revision.title,
  summary: page.revision.summary,
  metadata: toValues(page.metadata),
  keywords: page.keywords,
  about: aboutOf(page),
  owner: [page.owner],
  departmentId: page.department?.id ?? null,
  nextReview: page.reviewOn ?? '',
});

/** What is sent: of a draft all, of a released revision what lives on beside it. */
const bodyOf = (page: DocumentPage, draft: ReturnType<typeof draftOf>, reason: string) => ({
  title: draft.title,
  summary: draft.summary,
  metadata: toMetadata(page.fields, draft.metadata),
  keywords: draft.keywords,
  ...toAbout(draft.about),
  ...(page.revision.state === 'draft' ? {} : { titles: undefined }),
  ownerId: draft.owner[0]?.id ?? page.owner.id,
  departmentId: draft.departmentId,
  reviewOn: draft.nextReview || null,
  reason,
  rowVersion: page.rowVersion,
  revisionRowVersion: page.revision.rowVersion,
});

/** Corrects the metadata of a document: all of a draft, afterwards the living ones, with a reason. */
export const CorrectMetadata = ({ page: now, close }: { page: DocumentPage; close: () => void }) => {
  const form = useDraft(now, draftOf);
  const { base: page, draft, edit } = form;
  const isDraft = page.revision.state === 'draft';
  const [reason, setReason] = useState('');
  const command = useCommand(api.documents.correctMetadata, wording.metadataSaved, close);
  return (
    <FormDialog
      title={wording.correctMetadataOf(page.number)}
      columns
      of={form}
      command={command}
      button={wording.save}
      onSubmit={() => command.mutate({ params: { document: page.id }, body: bodyOf(page, draft, reason) })}
      onClose={close}
    >
      {isDraft && (
        <>
          <TextField
            wide
            label={wording.title}
            required
            value={draft.title}
            onChange={(value) => edit({ title: value })}
          />
          <TextArea
            wide
            label={wording.summaryOfTheRevision}
            optional
            rows={2}
            value={draft.summary}
            onChange={(value) => edit({ summary: value })}
          />
        </>
      )}
      <MetadataFields
        fields={page.fields.filter((field) => isDraft || field.level === 'document')}
        values={draft.metadata}
        onChange={(metadata) => edit({ metadata })}
        names={page.fieldNames}
      />
      <PeoplePicker label={wording.owner} single value={draft.owner} onChange={(owner) => edit({ owner })} />
      <DepartmentSelect
        label={wording.department}
        value={draft.departmentId}
        onChange={(departmentId) => edit({ departmentId })}
      />
      <DateField
        label={wording.nextReviewDate}
        optional
        value={draft.nextReview}
        onChange={(day) => edit({ nextReview: day })}
      />
      <div className="col-span-2">
        <KeywordsField value={draft.keywords} onChange={(keywords) => edit({ keywords })} />
      </div>
      <AboutFields
        values={draft.about}
        onChange={(about) => edit({ about })}
        typeReview={{ every: page.reviewEvery.type, unit: page.reviewEvery.unit }}
        titles={isDraft}
        sharing={page.sharing.offered}
        isOutside={page.origin !== null}
      />
      {!isDraft && (
        <ReasonField wide value={reason} onChange={setReason} hint={wording.revisionFieldsCanBeChangedOnly} />
      )}
    </FormDialog>
  );
};
