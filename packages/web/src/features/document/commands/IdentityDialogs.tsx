import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { Select, TextArea, TextField } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { showDay } from '../../../ui/format.ts';
import { Tick } from '../../../ui/Tick.tsx';
import { DocumentPicker } from '../DocumentPicker.tsx';

type Props = { page: DocumentPage; close: () => void };

/** What changes what a document is called, holds, or is known of: number, file name, content, edition at its source. */
export const IdentityDialogs = ({ page, command, close }: Props & { command: string | null }) => (
  <>
    {command === 'renumber' && <Renumber page={page} close={close} />}
    {command === 'rename file' && <RenameFile page={page} close={close} />}
    {command === 'replace content' && <ReplaceContent page={page} close={close} />}
    {command === 'check source' && <CheckSource page={page} close={close} />}
  </>
);

const Renumber = ({ page, close }: Props) => {
  const navigate = useNavigate();
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const type = types.data?.types.find((one) => one.id === page.type.id);
  const [number, setNumber] = useState('');
  const [reason, setReason] = useState('');
  const command = useCommand(
    api.documents.renumber,
    (answer) => `The number is now ${answer.number}.`,
    (answer) => navigate(`/d/${encodeURIComponent(answer.number)}`, { replace: true }),
  );
  return (
    <FormDialog
      title={`Renumber ${page.number}`}
      about={
        <p>
          {page.number} becomes void and points to the new number; links to it lead here. Possible only while nobody
          else has decided on the document.
        </p>
      }
      command={command}
      button="Renumber"
      onSubmit={() =>
        command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, number: number || null, reason } })
      }
      onClose={close}
    >
      {type?.numbering ? (
        <Select label="New number" value={number} onChange={(event) => setNumber(event.target.value)}>
          <option value="">Next number by rule</option>
          {type.reserved.map((one) => (
            <option key={one} value={one}>
              {one}, reserved for you
            </option>
          ))}
        </Select>
      ) : (
        <TextField
          label="External number"
          required
          value={number}
          onChange={(event) => setNumber(event.target.value)}
        />
      )}
      <TextArea label="Reason" required rows={2} value={reason} onChange={(event) => setReason(event.target.value)} />
    </FormDialog>
  );
};

const RenameFile = ({ page, close }: Props) => {
  const [file] = page.versions[0]?.files ?? [];
  const [name, setName] = useState(file?.name ?? '');
  const command = useCommand(api.documents.rename, ({ version }) => `Renamed, as version ${version}.`, close);
  return (
    <FormDialog
      title={`Rename the file of ${page.number}`}
      command={command}
      button="Rename"
      onSubmit={() => command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, name } })}
      onClose={close}
    >
      <TextField
        label="Stored name"
        required
        maxLength={200}
        value={name}
        onChange={(event) => setName(event.target.value)}
        hint={
          file && (
            <>
              Name by rule when downloaded <span className="num">{file.handedOutName}</span>
              {name !== file.handedOutName && (
                <button type="button" className="btn ml-2 !h-6" onClick={() => setName(file.handedOutName)}>
                  Use this name
                </button>
              )}
            </>
          )
        }
      />
    </FormDialog>
  );
};

const ReplaceContent = ({ page, close }: Props) => {
  const [from, setFrom] = useState('');
  const [note, setNote] = useState('');
  const command = useCommand(api.documents.replace, ({ version }) => `Version ${version} has the new content.`, close);
  return (
    <FormDialog
      title={`Use content of another document for ${page.number}`}
      about={
        <p>
          Its files become the next version here. The other document is not changed; the history of both records it.
        </p>
      }
      command={command}
      button="Use content"
      ready={from !== ''}
      onSubmit={() => command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, from, note } })}
      onClose={close}
    >
      <DocumentPicker label="From" value={from} onChange={setFrom} />
      <TextArea
        label="Change note for this version"
        required
        rows={2}
        value={note}
        onChange={(event) => setNote(event.target.value)}
      />
    </FormDialog>
  );
};

const CheckSource = ({ page, close }: Props) => {
  const had = page.origin?.edition ?? '';
  const [edition, setEdition] = useState(had);
  const [isNewer, setIsNewer] = useState(false);
  const [note, setNote] = useState('');
  const command = useCommand(
    api.documents.checkSource,
    ({ checkOn }) => (checkOn ? `Saved. The next check is due on ${showDay(checkOn)}.` : 'Saved.'),
    close,
  );
  return (
    <FormDialog
      title={`Record a source check of ${page.number}`}
      about={<p>{page.origin?.source || 'No source is entered yet.'}</p>}
      command={command}
      button="Record check"
      onSubmit={() => command.mutate({ params: { document: page.id }, body: { edition, isNewer, note } })}
      onClose={close}
    >
      <TextField
        label="Edition found"
        required
        value={edition}
        onChange={(event) => {
          setEdition(event.target.value);
          setIsNewer(event.target.value.trim() !== had.trim());
        }}
      />
      <Tick checked={isNewer} onChange={setIsNewer}>
        It differs from the edition registered here{had && ` (${had})`}: revise this document
      </Tick>
      <TextArea label="Note" optional rows={2} value={note} onChange={(event) => setNote(event.target.value)} />
    </FormDialog>
  );
};
