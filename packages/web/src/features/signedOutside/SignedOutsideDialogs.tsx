import { api, type DocumentPage, type Upload } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextArea, TextField } from '../../ui/controls.tsx';
import { FileDrop } from '../../ui/FileDrop.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { wording } from './wording.ts';

type Props = { page: DocumentPage; close: () => void };

/** Keeps a PDF that came back with signatures. */
export const BringSignedDialog = ({ page, close }: Props) => {
  const [upload, setUpload] = useState<Upload | null>(null);
  const [note, setNote] = useState('');
  const command = useCommand(api.signedOutside.bring, ({ signatures }) => wording.added(signatures.length), close);
  return (
    <FormDialog
      title={wording.bringOf(page.number)}
      about={<p className="text-[12.5px] text-ink-2">{wording.bringAbout}</p>}
      command={command}
      button={wording.add}
      ready={upload !== null}
      onSubmit={() =>
        command.mutate({
          params: { document: page.id },
          body: { revisionId: page.revision.id, uploadId: upload?.id ?? '', note },
        })
      }
      onClose={close}
    >
      <FileDrop label={wording.file} about="PDF" value={upload} onChange={setUpload} />
      <TextField label={wording.note} optional maxLength={500} value={note} onChange={setNote} />
    </FormDialog>
  );
};

/** Asks people outside to sign through the signing service. */
export const SendToSignDialog = ({ page, close }: Props) => {
  const [signers, setSigners] = useState([{ name: '', mail: '' }]);
  const [message, setMessage] = useState('');
  const command = useCommand(api.signedOutside.send, wording.sent, close);
  const change = (at: number, part: Partial<(typeof signers)[number]>) =>
    setSigners(signers.map((one, i) => (i === at ? { ...one, ...part } : one)));
  return (
    <FormDialog
      title={wording.sendOf(page.number)}
      about={<p className="text-[12.5px] text-ink-2">{wording.sendAbout}</p>}
      command={command}
      button={wording.sendNow}
      onSubmit={() =>
        command.mutate({ params: { document: page.id }, body: { revisionId: page.revision.id, signers, message } })
      }
      onClose={close}
    >
      {signers.map((signer, at) => (
        <fieldset
          // biome-ignore lint/suspicious/noArrayIndexKey: a person is identified by the place while they are named
          key={at}
          className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)_auto] items-end gap-2 max-md:grid-cols-1"
        >
          <legend className="cap">{wording.signer(at + 1)}</legend>
          <TextField
            label={wording.signerName}
            required
            maxLength={120}
            value={signer.name}
            onChange={(name) => change(at, { name })}
          />
          <TextField
            label={wording.signerMail}
            type="email"
            required
            maxLength={200}
            value={signer.mail}
            onChange={(mail) => change(at, { mail })}
          />
          {signers.length > 1 && (
            <button
              type="button"
              className="btn"
              aria-label={wording.removeSigner(at + 1)}
              onClick={() => setSigners(signers.filter((_, i) => i !== at))}
            >
              {wording.removeSigner(at + 1)}
            </button>
          )}
        </fieldset>
      ))}
      <div>
        <button type="button" className="btn" onClick={() => setSigners([...signers, { name: '', mail: '' }])}>
          {wording.addSigner}
        </button>
      </div>
      <TextArea label={wording.message} optional rows={2} value={message} onChange={setMessage} />
    </FormDialog>
  );
};
