import { api, type DocumentPage, type Upload } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { toast } from 'sonner';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { Actions, Dialog, TextArea } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { Failed, Loading } from '../../../ui/states.tsx';
import { OriginalField } from '../OriginalField.tsx';

const copyText = (text: string) =>
  void navigator.clipboard?.writeText(text).then(() => toast.success('The address is copied.'));

/** Opens the file in the program of one's desk: by a press where a program has registered for it, else by its address. */
export const OnDrive = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const { data, error } = useQuery(ask(api.programs.onDrive, { params: { document: page.id } }));
  const mayChange = page.work !== null && page.rights.includes('author');
  return (
    <Dialog open title={`${page.number} on the network drive`} onClose={close} wide>
      {error ? (
        <Failed error={error} />
      ) : !data ? (
        <Loading what="the address" />
      ) : (
        <div className="flex flex-col gap-3">
          <p>
            {mayChange
              ? 'Opened there, it is checked out to you; what you save becomes one version when you close it.'
              : 'Opened there, it can be read and not be saved.'}
          </p>
          {data.openers.length > 0 && (
            <div className="flex flex-wrap gap-2">
              {data.openers.map((opener) => (
                <a key={opener.program} className="btn btn-pri" href={opener.address}>
                  Open in {opener.program}
                </a>
              ))}
            </div>
          )}
          <div>
            <span className="cap">Address for any program</span>
            <div className="flex items-center gap-2">
              <code className="num min-w-0 flex-1 border border-line bg-film-2 px-2 py-1 text-[12px] !whitespace-normal break-all">
                {data.address}
              </code>
              <button type="button" className="btn" onClick={() => copyText(data.address)}>
                Copy
              </button>
            </div>
          </div>
          <p className="text-ink-2">
            A program asks for your sign-in name and a password of its own, which you make on{' '}
            <Link className="link" to="/profile">
              your profile
            </Link>
            ; how the whole filing plan is opened as a drive stands there too. Which metadata the file can show by
            itself stands under <i>Metadata in the file</i> in the commands.
          </p>
          <Actions>
            <button type="button" className="btn" onClick={close}>
              Close
            </button>
          </Actions>
        </div>
      )}
    </Dialog>
  );
};

/** Keeps a file beside the versions: seen there, never current. */
export const AddSupportingFile = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const [upload, setUpload] = useState<Upload | null>(null);
  const [note, setNote] = useState('');
  const command = useCommand(api.programs.addSupportingFile, 'It is kept beside the versions.', close);
  return (
    <FormDialog
      title={`Keep a file beside ${page.number}`}
      about={<p>It stands under the versions of the revision, and never is what the document says.</p>}
      command={command}
      button="Keep it"
      ready={upload !== null}
      onSubmit={() => upload && command.mutate({ params: { document: page.id }, body: { uploadId: upload.id, note } })}
      onClose={close}
    >
      <OriginalField label="File" value={upload} onChange={setUpload} />
      <TextArea label="What it is" required rows={2} value={note} onChange={(event) => setNote(event.target.value)} />
    </FormDialog>
  );
};
