import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { Select, TextArea } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { SignBox } from '../../../ui/SignBox.tsx';
import { SignedFiles } from '../../../ui/SignedFiles.tsx';
import { Failed } from '../../../ui/states.tsx';
import { CoveredList } from '../../tasks/CoveredList.tsx';
import { wording } from './wording.ts';

/** Signs the revision in view outside a round, with a meaning from the list of the organisation. */
export const SignOutsideDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const [meaning, setMeaning] = useState('');
  const [comment, setComment] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const revisionId = page.revision.id;
  const { data, error, refetch } = useQuery(
    ask(api.adHocRounds.toSign, { params: { document: page.id }, query: { revisionId } }),
  );
  const command = useCommand(api.adHocRounds.sign, wording.signed, close);
  return (
    <FormDialog
      title={wording.signOutside(`${page.number} ${page.revision.label}`.trim())}
      about={<p className="text-[12.5px] text-ink-2">{wording.signOutsideAbout}</p>}
      command={command}
      button={wording.sign}
      ready={meaning !== '' && data !== undefined && data.files.every(({ opened }) => opened)}
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: {
            revisionId,
            meaning,
            comment,
            digest: data?.digest ?? '',
            name: sign.name || null,
            password: sign.password,
          },
        })
      }
      onClose={close}
    >
      {error && <Failed error={error} again={() => void refetch()} />}
      <Select
        label={wording.meaning}
        value={meaning}
        empty="–"
        options={(data?.meanings ?? []).map((value) => ({ value, text: value }))}
        onChange={setMeaning}
      />
      <TextArea label={wording.comment} optional rows={2} value={comment} onChange={setComment} />
      {data && <SignedFiles files={data.files} askAgain={refetch} />}
      {data && <CoveredList covers={data.covers} />}
      <SignBox asksForName={data?.asksForName ?? true} value={sign} onChange={setSign} error={command.error} />
    </FormDialog>
  );
};
