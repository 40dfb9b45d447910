import { api, type Edition, type TypeDetail } from '@kanonos/contract';
import { useState } from 'react';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';

import { FormDialog } from '../../ui/FormDialog.tsx';
import { showDay, showInstant } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Differences } from './Differences.tsx';
import { wording } from './wording.ts';

/** Every edition of a rule: who changed what, when and why; on top what is planned. */
export const Editions = ({ editions, planned }: { editions: readonly Edition[]; planned?: TypeDetail['planned'] }) => {
  const { zone } = useMe().organisation;
  return (
    <ol className="flex max-w-3xl flex-col">
      {planned && (
        <li className="mb-2 border-l-3 border-ochre bg-ochre-tint px-3 py-2">
          <p className="cap !text-ochre">{wording.fromFrom(showDay(planned.from))}</p>
          <p className="mb-1">
            {planned.reason} ({planned.by})
          </p>
          <Differences differences={planned.differences} />
        </li>
      )}
      {editions.map((edition) => (
        <li key={edition.n} className="grid grid-cols-[52px_minmax(0,1fr)] border-b border-line-2 py-2 last:border-0">
          <span className="num pt-0.5 text-ink-2">{wording.edEditionN(edition.n)}</span>
          <div>
            <p>
              <b className="font-semibold">{edition.reason}</b>{' '}
              <span className="text-ink-3">
                {edition.by}, {showInstant(edition.at, zone)}
              </span>
            </p>
            <Differences differences={edition.differences} />
          </div>
        </li>
      ))}
    </ol>
  );
};

/** Drops what is planned for a type, with a reason. */
export const DropPlan = ({ id }: { id: string }) => {
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState('');
  const command = useCommand(api.rules.dropPlan, wording.plannedChangeCancelled, () => setOpen(false));
  return (
    <>
      <button type="button" className="btn ml-auto !h-6" onClick={() => setOpen(true)}>
        {wording.cancelPlannedChange}
      </button>
      {open && (
        <FormDialog
          title={wording.cancelPlannedChange}
          command={command}
          button={wording.cancelPlannedChange}
          onSubmit={() => command.mutate({ params: { id }, body: { reason } })}
          onClose={() => setOpen(false)}
        >
          <ReasonField value={reason} onChange={setReason} />
        </FormDialog>
      )}
    </>
  );
};
