import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { count, showInstant } from '../../ui/format.ts';
import { BulkActionsMenu } from './BulkActionsMenu.tsx';
import { BulkDialog, type Picked } from './BulkDialog.tsx';
import { undoBulk } from './useBulk.ts';
import { wording } from './wording.ts';

/** What can be done with marked rows, or with everything that is found; and the last change at once, to undo it. */
export const MarkBar = ({
  marked,
  found,
  clear,
  zone,
}: {
  marked: Picked | null;
  found: Picked;
  clear: () => void;
  zone: string;
}) => {
  const [picked, setPicked] = useState<Picked | null>(null);
  const [undoing, setUndoing] = useState(false);
  const { data } = useQuery(ask(api.bulk.mine));
  const last = data?.changes.find((change) => change.undone < change.documents);
  return (
    <>
      {marked ? (
        <div className="flex flex-wrap items-center gap-2 border-t border-line bg-petrol-tint px-3 py-1.5">
          <b className="font-semibold whitespace-nowrap">
            {count(marked.number, wording.rowSelected, wording.rowsSelected)}
          </b>
          <button type="button" className="btn btn-pri !h-6" onClick={() => setPicked(marked)}>
            {wording.change}
          </button>
          <BulkActionsMenu picked={marked} clear={clear} />
          <button type="button" className="btn !h-6" onClick={clear}>
            {wording.clearSelection}
          </button>
          {found.number > marked.number && (
            <span className="ml-auto flex flex-wrap gap-2">
              <button type="button" className="btn btn-quiet !h-6" onClick={() => setPicked(found)}>
                {wording.changeAllFound(found.number.toLocaleString('en-GB'))}
              </button>
              <BulkActionsMenu
                picked={found}
                clear={clear}
                label={wording.actionsOnAllFound(found.number.toLocaleString('en-GB'))}
              />
            </span>
          )}
        </div>
      ) : (
        last && (
          <div className="flex items-center gap-2 border-t border-line-2 px-3 py-1 text-[12px] text-ink-2">
            <span className="min-w-0 flex-1 truncate">
              {wording.youChangedOn(
                count(last.documents, 'document', 'documents'),
                showInstant(last.at, zone),
                last.reason,
              )}
            </span>
            <button
              type="button"
              className="btn btn-quiet !h-6"
              disabled={undoing}
              onClick={() => {
                setUndoing(true);
                void undoBulk(last.id).finally(() => setUndoing(false));
              }}
            >
              {undoing ? wording.undoing : wording.undo}
            </button>
          </div>
        )
      )}
      {picked && (
        <BulkDialog
          picked={picked}
          close={() => {
            setPicked(null);
            clear();
          }}
        />
      )}
    </>
  );
};
