import { api } from '@kanonos/contract';
import { useState } from 'react';
import { addressOf, call } from '../../app/client.ts';
import { TextField } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { Tick } from '../../ui/Tick.tsx';
import { EachResult } from './EachResult.tsx';
import { useEach } from './useEach.ts';
import { wording } from './wording.ts';

/** Checks many documents out at once, and hands out the files of those that were; the others are listed with the reason. */
export const CheckOutManyDialog = ({ ids, close }: { ids: readonly string[]; close: () => void }) => {
  const [note, setNote] = useState('');
  const [expectedBack, setExpectedBack] = useState('');
  const [withFiles, setWithFiles] = useState(true);
  const { run, share, error, result } = useEach((part) =>
    call(api.bulk.checkOut, { body: { ids: part, note, expectedBack: expectedBack || null } }),
  );
  const start = async () => {
    const { done } = await run(ids);
    if (!withFiles || done.length === 0) return;
    const body = { ids: done.map((one) => one.id), filter: null, content: 'work' } as const;
    const { id } = await call(api.bulk.downloadPackage, { body });
    location.assign(addressOf(api.bulk.fetchDownloadPackage, { id }));
  };
  return (
    <FormDialog
      title={wording.checkOutDocuments(count(ids.length, 'document'))}
      about={result ? undefined : <p>{wording.checkedOutAbout}</p>}
      command={{ isPending: share !== null, error }}
      button={result ? wording.close : wording.checkOut}
      onSubmit={() => (result ? close() : void start())}
      onClose={close}
    >
      {result ? (
        <EachResult result={result} did={['checked out', 'checked out']} />
      ) : (
        <>
          <TextField label={wording.purpose} optional value={note} onChange={setNote} />
          <DateField label={wording.expectedBack} optional value={expectedBack} onChange={setExpectedBack} />
          <Tick checked={withFiles} onChange={setWithFiles}>
            {wording.downloadTheirFiles}
          </Tick>
        </>
      )}
    </FormDialog>
  );
};
