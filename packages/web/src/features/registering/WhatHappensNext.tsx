import { CommandButton } from '../../ui/controls.tsx';
import { RevisionMark } from '../../ui/marks.tsx';
import { Refusals } from '../../ui/states.tsx';
import type { Common } from './common.ts';
import type { DocumentDraft } from './useDocumentDraft.ts';
import { wording } from './wording.ts';

/** Beside the form: number, label and file name as they would be given, what is still missing, and the commands. */
export const WhatHappensNext = ({
  type,
  draft,
  mayRepeat,
}: {
  type: Common['type'];
  draft: DocumentDraft;
  mayRepeat: boolean;
}) => (
  <div className="border-l border-line bg-film-2">
    <aside
      aria-label={wording.whatHappensNext}
      className="sticky top-0 flex max-h-full flex-col gap-3 overflow-y-auto px-4 py-4"
    >
      <div className="tb grid-cols-[1fr_76px]" aria-live="polite">
        <div className="border-r border-b border-line">
          <span className="cap">{wording.number}</span>
          <b className="num !text-[13px]">{draft.preview?.number ?? '–'}</b>
        </div>
        <div className="row-span-2 grid place-items-center border-line">
          <span className="cap">{wording.rev}</span>
          <RevisionMark label={draft.preview?.label ?? ''} mark="open" size="big" />
        </div>
        <div className="border-r border-line">
          <span className="cap">{wording.title}</span>
          <b className="min-h-[1.4em]">{draft.title || '–'}</b>
        </div>
      </div>
      <div>
        <span className="cap">{wording.fileNameWhenDownloaded}</span>
        <p className="num break-all whitespace-normal">{draft.preview?.fileName ?? '–'}</p>
      </div>
      {type && (
        <div>
          <span className="cap">{wording.then2}</span>
          <p className="text-[12.5px]">
            {type.route.steps.length
              ? `${type.route.steps.map((step) => step.name).join(wording.then3)}.`
              : wording.documentControlReleasesItWithoutA}
          </p>
        </div>
      )}
      <p className="text-[12.5px] text-ink-2">
        {draft.missing.length
          ? wording.stillMissing(draft.missing.join(', '))
          : wording.registersAsADraftVersion1(draft.preview?.number ?? 'it')}
      </p>
      {draft.preview && draft.preview.missing.length > 0 && (
        <p className="text-[12.5px] text-ochre">{wording.requiredBeforeSubmission(draft.preview.missing.join(', '))}</p>
      )}
      {draft.preview?.refusals.map((r) => (
        <p key={r.detail} className="text-[12.5px] text-vermilion">
          {r.detail}
        </p>
      ))}
      <Refusals error={draft.error} />
      <CommandButton busy={draft.busy} disabled={draft.missing.length > 0} className="!h-9">
        {wording.registerNumber(draft.preview?.number ?? wording.theDocument)}
      </CommandButton>
      {mayRepeat && (
        <button
          type="button"
          className="btn"
          disabled={draft.busy || draft.missing.length > 0}
          onClick={() => void draft.register(true)}
        >
          {wording.registerAndAddASimilarOne}
        </button>
      )}
    </aside>
  </div>
);
