import type { Affected } from '@kanonos/contract';
import { useState } from 'react';
import { ReleaseSetDialog, ReviseSetDialog, SubmitSetDialog } from './SetDialogs.tsx';
import { wording } from './wording.ts';

/** What can be done with the ticked documents together; a document takes part where it can. */
export const SetBar = ({ number, chosen, done }: { number: string; chosen: readonly Affected[]; done: () => void }) => {
  const [asked, setAsked] = useState<'revise' | 'submit' | 'release' | null>(null);
  const able = {
    revise: chosen.filter((one) => one.may.revise),
    submit: chosen.filter((one) => one.may.submit),
    release: chosen.filter((one) => one.may.release),
  };
  const shut = () => setAsked(null);
  const finished = () => {
    shut();
    done();
  };
  return (
    <>
      {(['revise', 'submit', 'release'] as const).map(
        (kind) =>
          able[kind].length > 0 && (
            <button key={kind} type="button" className="btn btn-pri" onClick={() => setAsked(kind)}>
              {wording[`${kind}Set`](able[kind].length)}
            </button>
          ),
      )}
      {asked === 'revise' && <ReviseSetDialog note={number} documents={able.revise} done={finished} close={shut} />}
      {asked === 'submit' && <SubmitSetDialog documents={able.submit} done={finished} close={shut} />}
      {asked === 'release' && <ReleaseSetDialog documents={able.release} done={finished} close={shut} />}
    </>
  );
};
