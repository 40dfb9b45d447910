import { api, type DocumentPage, type Upload } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Navigate } from 'react-router';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { TextArea, TextField } from '../../ui/controls.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { wording } from './wording.ts';

/** What a reader would have changed: by the form of the type where there is one, or else in a few words. */
export const SuggestChangeDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const { data, isPending } = useQuery(ask(api.forms.forChange, { params: { document: page.id } }));
  if (isPending) return null;
  if (data?.form) return <Navigate to={`/forms/${data.form.id}?document=${encodeURIComponent(page.number)}`} replace />;
  return <InAFewWords page={page} close={close} />;
};

const InAFewWords = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const [place, setPlace] = useState('');
  const [what, setWhat] = useState('');
  const [proposal, setProposal] = useState('');
  const [upload, setUpload] = useState<Upload | null>(null);
  const command = useCommand(api.changeRequests.suggest, ({ number }) => wording.sent(number), close);
  return (
    <FormDialog
      title={wording.suggestAChangeOf(page.number)}
      about={<p className="text-[12.5px] text-ink-2">{wording.suggestAbout}</p>}
      command={command}
      button={wording.sendSuggestion}
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: { place, what, proposal, uploadId: upload?.id ?? null },
        })
      }
      onClose={close}
    >
      <TextField
        label={wording.place}
        optional
        maxLength={200}
        value={place}
        onChange={setPlace}
        hint={wording.placeHint}
      />
      <TextArea label={wording.whatIsWrong} required rows={3} value={what} onChange={setWhat} />
      <TextArea label={wording.proposal} optional rows={2} value={proposal} onChange={setProposal} />
      <FileDrop label={wording.fileToIt} value={upload} onChange={setUpload} />
    </FormDialog>
  );
};
