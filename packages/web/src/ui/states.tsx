import type { ReactNode } from 'react';
import { Problem } from '../app/client.ts';
import { wording } from './wording.ts';

/** Shown while something is being fetched; silent for the first moment, so that quick answers do not flicker. */
export const Loading = ({ what }: { what: string }) => (
  <div role="status" className="grid h-full min-h-24 place-items-center p-6 text-ink-3 [animation:appear_0s_.3s_both]">
    <span className="flex items-center gap-2">
      <span
        aria-hidden
        className="inline-block h-3 w-3 animate-spin rounded-full border-2 border-petrol border-t-transparent"
      />
      {wording.loadingWhat(what)}
    </span>
  </div>
);

/** Shown where there is nothing, with what would bring something here. */
export const Empty = ({ title, children }: { title: string; children?: ReactNode }) => (
  <div className="grid min-h-40 place-items-center p-8 text-center">
    <div>
      <p className="font-semibold">{title}</p>
      {children && <div className="mt-1 max-w-96 text-ink-2">{children}</div>}
    </div>
  </div>
);

/** Shown when something could not be fetched: what happened, and the way on. */
export const Failed = ({ error, again }: { error: Error; again?: () => void }) => {
  const missing = error instanceof Problem && error.document.status === 404;
  return (
    <div role="alert" className="grid min-h-40 place-items-center p-8 text-center">
      <div className="max-w-md">
        <p className="font-semibold">
          {missing ? wording.nothingWasFoundAtThisAddress : wording.thisCouldNotBeDisplayed}
        </p>
        {!missing && <p className="mt-1 text-ink-2">{error.message}</p>}
        <div className="mt-3 flex justify-center gap-2">
          {again && !missing && (
            <button type="button" className="btn" onClick={again}>
              {wording.tryAgain}
            </button>
          )}
          <a className="btn" href="/">
            {wording.goToMyDesk}
          </a>
        </div>
        {error instanceof Problem && error.document.requestId && !missing && (
          <p className="mt-3 text-[11px] text-ink-3">{wording.requestRequestId(error.document.requestId)}</p>
        )}
      </div>
    </div>
  );
};

/** The refusals of a command, as sentences. */
export const Refusals = ({ error }: { error: Error | null | undefined }) => {
  if (!error) return null;
  const sentences =
    error instanceof Problem && error.document.refusals.length
      ? error.document.refusals.map((r) => r.detail)
      : [error.message];
  return (
    <div role="alert" className="border-l-3 border-vermilion bg-vermilion-tint px-3 py-2 text-[12.5px] text-vermilion">
      {sentences.map((sentence) => (
        <p key={sentence}>{sentence}</p>
      ))}
    </div>
  );
};

/** A quiet line with what a command still needs. */
export const Why = ({ children }: { children: ReactNode }) => <p className="text-[12px] text-ink-2">{children}</p>;
