import { api, type DocumentPage, type Upload } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextArea, TextField } from '../../ui/controls.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { wording } from './wording.ts';

/** What a reader would have changed, sent to whoever answers for the document. */
export const SuggestChangeDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
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
