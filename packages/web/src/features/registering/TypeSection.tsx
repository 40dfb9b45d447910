import { Select, TextArea, TextField } from '../../ui/controls.tsx';
import { KeywordsField } from '../document/KeywordsField.tsx';
import { MetadataFields } from '../document/MetadataFields.tsx';
import { MoreOriginals, OriginalFacts } from '../document/MoreOriginals.tsx';
import { AboutSection } from './AboutSection.tsx';
import type { Common } from './common.ts';
import type { DocumentDraft } from './useDocumentDraft.ts';
import { wording } from './wording.ts';

/** What the chosen type asks for: its number and label, its fields, keywords, the parent, further originals. */
export const TypeSection = ({
  type,
  common,
  draft,
}: {
  type: NonNullable<Common['type']>;
  common: Common;
  draft: DocumentDraft;
}) => (
  <>
    {!type.numbering && (
      <TextField
        label={wording.externalNumber}
        required
        value={draft.number}
        onChange={draft.setNumber}
        error={draft.errorFor(wording.number)}
      />
    )}
    {type.reserved.length > 0 && (
      <Select
        label={wording.number}
        value={draft.number}
        onChange={draft.setNumber}
        empty={wording.nextNumberByRule}
        options={type.reserved.map((one) => ({ value: one, text: wording.reservedForYou(one) }))}
      />
    )}
    {type.labelGivenBySupplier && (
      <TextField label={wording.suppliersRevisionLabel} required value={draft.label} onChange={draft.setLabel} />
    )}
    {type.fields.length > 0 && (
      <fieldset className="grid grid-cols-2 gap-3.5 border-t border-line pt-3">
        <legend className="cap pr-2">{wording.fieldsOfThisType}</legend>
        <MetadataFields
          fields={type.fields}
          values={common.metadata.values}
          onChange={common.metadata.set}
          origins={common.metadata.origins}
        />
      </fieldset>
    )}
    <div className="grid grid-cols-2 gap-3.5 border-t border-line pt-3">
      <KeywordsField value={common.keywords} onChange={common.setKeywords} />
      <TextArea
        label={wording.summaryForReviewersAndReaders}
        optional
        rows={2}
        value={draft.summary}
        onChange={draft.setSummary}
      />
      <TextField
        label={wording.noteForTheFirstVersion}
        optional
        maxLength={2000}
        value={draft.note}
        onChange={draft.setNote}
      />
    </div>
    <AboutSection
      type={type}
      common={common}
      title={wording.parentSitesConfidentialityTitlesInOther}
      titles
      className="grid-cols-2"
    />
    <details open={draft.more.length > 0} className="border-t border-line pt-3">
      <summary className="cursor-pointer font-[550] text-petrol">{wording.moreOriginalsOrSheets}</summary>
      <div className="mt-2 flex flex-col gap-2">
        {draft.more.length > 0 && (
          <div className="border-l-3 border-line pl-2.5">
            <span className="cap mb-1 block">
              {wording.original1Upload(draft.upload?.name ?? wording.theFileAbove)}
            </span>
            <OriginalFacts name="original 1" value={draft.original} onChange={draft.setOriginal} />
          </div>
        )}
        <MoreOriginals rows={draft.more} onChange={draft.setMore} />
      </div>
    </details>
  </>
);
