import { api, type DocumentPage, type Upload } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { CloseButton, Dialog, TextArea } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { Failed, Loading } from '../../../ui/states.tsx';
import { toast } from '../../../ui/toast.ts';
import { OriginalField } from '../OriginalField.tsx';
import { wording } from '../wording.ts';

const copyText = (text: string) =>
  void navigator.clipboard?.writeText(text).then(() => toast.success(wording.addressCopied));

/** Opens the file in a desktop application: by a press where a program has registered for it, else by its address. */
export const OnDrive = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const { data, error } = useQuery(ask(api.programs.onDrive, { params: { document: page.id } }));
  const mayChange = page.work !== null && page.rights.includes('author');
  return (
    <Dialog open title={wording.openInDesktopApplication(page.number)} onClose={close} wide>
      {error ? (
        <Failed error={error} />
      ) : !data ? (
        <Loading what={wording.theAddress} />
      ) : (
        <div className="flex flex-col gap-3">
          <p>{mayChange ? wording.openingItThereChecksItOut : wording.openedThereItIsReadOnly}</p>
          {data.openers.length > 0 && (
            <div className="flex flex-wrap gap-2">
              {data.openers.map((opener) => (
                <a key={opener.program} className="btn btn-pri" href={opener.address}>
                  {wording.openIn(opener.program)}
                </a>
              ))}
            </div>
          )}
          <div>
            <span className="cap">{wording.addressForAnyProgram}</span>
            <div className="flex items-center gap-2">
              <code className="num min-w-0 flex-1 border border-line bg-film-2 px-2 py-1 text-[12px] !whitespace-normal break-all">
                {data.address}
              </code>
              <button type="button" className="btn" onClick={() => copyText(data.address)}>
                {wording.copy}
              </button>
            </div>
          </div>
          <p className="text-ink-2">
            {wording.theApplicationAsksForYourSign}{' '}
            <Link className="link" to="/profile">
              {wording.yourProfile}
            </Link>
            {wording.whereYouAlsoFindHowTo} <i>{wording.insertMetadataIntoTheFile}</i> {wording.inTheActions}
          </p>
          <CloseButton onClose={close} />
        </div>
      )}
    </Dialog>
  );
};

/** Keeps a file beside the versions: seen there, never current. */
export const AddSupportingFile = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const [upload, setUpload] = useState<Upload | null>(null);
  const [note, setNote] = useState('');
  const command = useCommand(api.programs.addSupportingFile, wording.supportingFileAdded, close);
  return (
    <FormDialog
      title={wording.addSupportingFileTo(page.number)}
      about={<p>{wording.itIsListedWithTheVersions}</p>}
      command={command}
      button={wording.addSupportingFile2}
      ready={upload !== null}
      onSubmit={() => upload && command.mutate({ params: { document: page.id }, body: { uploadId: upload.id, note } })}
      onClose={close}
    >
      <OriginalField label={wording.file} value={upload} onChange={setUpload} />
      <TextArea label={wording.description} required rows={2} value={note} onChange={setNote} />
    </FormDialog>
  );
};
