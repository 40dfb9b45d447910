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
  void navigator.clipboard?.writeText(text).then(() => toast.success('Address copied.'));

/** Opens the file in the program of one's desk: by a press where a program has registered for it, else by its address. */
export const OnDrive = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const { data, error } = useQuery(ask(api.programs.onDrive, { params: { document: page.id } }));
  const mayChange = page.work !== null && page.rights.includes('author');
  return (
    <Dialog open title={`Open ${page.number} in desktop application`} onClose={close} wide>
      {error ? (
        <Failed error={error} />
      ) : !data ? (
        <Loading what="the address" />
      ) : (
        <div className="flex flex-col gap-3">
          <p>
            {mayChange
              ? 'Opening it there checks it out to you; your saved changes become one version when you close it.'
              : 'Opened there, it is read-only.'}
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
            The application asks for your sign-in name and an application password, which you create in{' '}
            <Link className="link" to="/profile">
              your profile
            </Link>
            , where you also find how to connect the whole filing plan as a drive. Metadata that the file can show are
            listed under <i>Insert metadata into the file</i> in the actions.
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
  const command = useCommand(api.programs.addSupportingFile, 'Supporting file added.', close);
  return (
    <FormDialog
      title={`Add supporting file to ${page.number}`}
      about={<p>It is listed with the versions of the revision and is never the document's content.</p>}
      command={command}
      button="Keep check-out"
      ready={upload !== null}
      onSubmit={() => upload && command.mutate({ params: { document: page.id }, body: { uploadId: upload.id, note } })}
      onClose={close}
    >
      <OriginalField label="File" value={upload} onChange={setUpload} />
      <TextArea label="Description" required rows={2} value={note} onChange={(event) => setNote(event.target.value)} />
    </FormDialog>
  );
};
