import type { DeskRow } from '@kanonos/contract';
import { useState } from 'react';
import { Link } from 'react-router';
import { wording } from './wording.ts';

type Several = {
  /** The tasks that are chosen; undefined while nobody is choosing. */
  chosen: ReadonlySet<string> | undefined;
  all: readonly string[];
  set: (chosen: ReadonlySet<string> | undefined) => void;
  toggle: (id: string) => void;
};

/** Which tasks of the Desk are decided together; nothing where there are no two of them. */
export const useSeveralOnDesk = (rows: readonly DeskRow[]): Several | undefined => {
  const [chosen, set] = useState<ReadonlySet<string>>();
  const all = rows.filter((row) => row.kind === 'decide').map((row) => row.id);
  if (all.length < 2) return undefined;
  const toggle = (id: string) => {
    const next = new Set(chosen);
    if (!next.delete(id)) next.add(id);
    set(next);
  };
  return { chosen, all, set, toggle };
};

/** Begins to choose, and leads to the chosen tasks. */
export const SeveralBar = ({ chosen, all, set }: Several) =>
  chosen === undefined ? (
    <button type="button" className="btn btn-quiet ml-auto" onClick={() => set(new Set())}>
      {wording.chooseSeveral}
    </button>
  ) : (
    <span className="ml-auto flex flex-wrap items-center gap-2">
      <button type="button" className="btn btn-quiet" onClick={() => set(new Set(all))}>
        {wording.chooseAll}
      </button>
      <button type="button" className="btn btn-quiet" onClick={() => set(undefined)}>
        {wording.cancel}
      </button>
      {chosen.size > 0 && (
        <Link className="btn btn-pri" to={`/tasks/several?of=${all.filter((id) => chosen.has(id)).join(',')}`}>
          {wording.decideTogether(chosen.size)}
        </Link>
      )}
    </span>
  );
