import { api } from '@kanonos/contract';
import { useState } from 'react';
import { call } from '../../app/client.ts';
import { TextArea } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { count } from '../../ui/format.ts';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { EachResult } from './EachResult.tsx';
import { useEach } from './useEach.ts';
import { wording } from './wording.ts';

/** Sends drafts on their way, each by the route of its type; those that cannot go are listed with the reason and stay. */
export const SubmitManyDialog = ({ ids, close }: { ids: readonly string[]; close: () => void }) => {
  const [message, setMessage] = useState('');
  const [chosen, setChosen] = useState<{ id: string; name: string }[]>([]);
  const { run, share, error, result } = useEach((part) =>
    call(api.bulk.submit, { body: { ids: part, message, chosen: chosen.map((person) => person.id) } }),
  );
  return (
    <FormDialog
      title={wording.submitDocuments(count(ids.length, 'document', 'documents'))}
      about={result ? undefined : <p>{wording.eachDocumentFollowsTheRouteOf}</p>}
      command={{ isPending: share !== null, error }}
      button={result ? wording.close : wording.submit}
      onSubmit={() => (result ? close() : void run(ids))}
      onClose={close}
    >
      {result ? (
        <EachResult result={result} did={['submitted', 'submitted']} />
      ) : (
        <>
          <PeoplePicker label={wording.reviewersWhereTheRouteLetsYou} value={chosen} onChange={setChosen} />
          <TextArea label={wording.message} optional rows={2} value={message} onChange={setMessage} />
        </>
      )}
    </FormDialog>
  );
};
