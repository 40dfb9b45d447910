import { CommandButton } from '../../ui/controls.tsx';
import { RevisionMark } from '../../ui/marks.tsx';
import { Refusals } from '../../ui/states.tsx';
import type { Common } from './common.ts';
import type { DocumentDraft } from './useDocumentDraft.ts';

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
      aria-label="What happens next"
      className="sticky top-0 flex max-h-full flex-col gap-3 overflow-y-auto px-4 py-4"
    >
      <div className="tb grid-cols-[1fr_76px]" aria-live="polite">
        <div className="border-r border-b border-line">
          <span className="cap">Number</span>
          <b className="num !text-[13px]">{draft.preview?.number ?? '–'}</b>
        </div>
        <div className="row-span-2 grid place-items-center border-line">
          <span className="cap">Rev</span>
          <RevisionMark label={draft.preview?.label ?? ''} mark="open" size="big" />
        </div>
        <div className="border-r border-line">
          <span className="cap">Title</span>
          <b className="min-h-[1.4em]">{draft.title || '–'}</b>
        </div>
      </div>
      <div>
        <span className="cap">File name when downloaded</span>
        <p className="num break-all whitespace-normal">{draft.preview?.fileName ?? '–'}</p>
      </div>
      {type && (
        <div>
          <span className="cap">Then</span>
          <p className="text-[12.5px]">
            {type.route.steps.length
              ? `${type.route.steps.map((step) => step.name).join(', then ')}.`
              : 'Document control releases it without a route.'}
          </p>
        </div>
      )}
      <p className="text-[12.5px] text-ink-2">
        {draft.missing.length
          ? `Still missing: ${draft.missing.join(', ')}.`
          : `Registers ${draft.preview?.number ?? 'it'} as a draft, version 1. The number is taken when you confirm; until then someone else may take it.`}
      </p>
      {draft.preview && draft.preview.missing.length > 0 && (
        <p className="text-[12.5px] text-ochre">Required before submission: {draft.preview.missing.join(', ')}.</p>
      )}
      {draft.preview?.refusals.map((r) => (
        <p key={r.detail} className="text-[12.5px] text-vermilion">
          {r.detail}
        </p>
      ))}
      <Refusals error={draft.error} />
      <CommandButton busy={draft.busy} disabled={draft.missing.length > 0} className="!h-9">
        Register {draft.preview?.number ?? 'the document'}
      </CommandButton>
      {mayRepeat && (
        <button
          type="button"
          className="btn"
          disabled={draft.busy || draft.missing.length > 0}
          onClick={() => void draft.register(true)}
        >
          Register and add a similar one
        </button>
      )}
    </aside>
  </div>
);
