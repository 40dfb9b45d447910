import { Problem } from '../app/client.ts';
import { meanwhileWords } from './meanwhileWords.ts';
import type { Draft } from './useDraft.ts';
import { wording } from './wording.ts';

export type Told = Pick<Draft<unknown, object>, 'meanwhile' | 'bring' | 'anew' | 'round'>;

/** Shown above a form when somebody else saved the same object: their changes, that the typed text is kept, and both ways on. */
export const Meanwhile = ({ of, words }: { of: Told; words?: (place: string) => string }) =>
  of.meanwhile && (
    <div
      role="alert"
      className="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-l-3 border-ochre bg-ochre-tint px-3 py-2"
    >
      <p className="min-w-0 flex-1 basis-72">{meanwhileWords(of.meanwhile, words)}</p>
      <span className="flex gap-2">
        <button type="button" className="btn" onClick={of.anew}>
          {wording.discardMine}
        </button>
        <button type="button" className="btn btn-pri" onClick={of.bring}>
          {wording.applyMineToTheirs}
        </button>
      </span>
    </div>
  );

/** Other refusals, where the form itself reports a conflicting save, or the typed changes were applied to it since. */
export const besidesMeanwhile = (error: Error | null, of: Told | undefined): Error | null =>
  of && (of.meanwhile || of.round > 0) && error instanceof Problem && error.code === 'changed_meanwhile' ? null : error;
