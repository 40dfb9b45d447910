import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { ask } from '../../../app/client.ts';
import { useCommand } from '../../../app/useCommand.ts';
import { documentAddress } from '../../../ui/addresses.ts';
import { Select, TextArea, TextField } from '../../../ui/controls.tsx';
import { FormDialog } from '../../../ui/FormDialog.tsx';
import { showDay } from '../../../ui/format.ts';
import { ReasonField } from '../../../ui/ReasonField.tsx';
import { Tick } from '../../../ui/Tick.tsx';
import { DocumentPicker } from '../DocumentPicker.tsx';
import { wording } from '../wording.ts';

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
    (answer) => wording.theNumberIsNow(answer.number),
    (answer) => navigate(documentAddress(answer.number), { replace: true }),
  );
  return (
    <FormDialog
      title={wording.renumberNumber(page.number)}
      about={<p>{wording.becomesVoidAndPointsToThe(page.number)}</p>}
      command={command}
      button={wording.renumber}
      onSubmit={() =>
        command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, number: number || null, reason } })
      }
      onClose={close}
    >
      {type?.numbering ? (
        <Select
          label={wording.newNumber}
          value={number}
          onChange={setNumber}
          empty={wording.nextNumberByRule}
          options={type.reserved.map((one) => ({ value: one, text: wording.reservedForYou(one) }))}
        />
      ) : (
        <TextField label={wording.externalNumber} required value={number} onChange={setNumber} />
      )}
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};

const RenameFile = ({ page, close }: Props) => {
  const [file] = page.versions[0]?.files ?? [];
  const [name, setName] = useState(file?.name ?? '');
  const command = useCommand(api.documents.rename, ({ version }) => wording.renamedAsVersion(version), close);
  return (
    <FormDialog
      title={wording.renameTheFileOf(page.number)}
      command={command}
      button={wording.rename}
      onSubmit={() => command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, name } })}
      onClose={close}
    >
      <TextField
        label={wording.storedName}
        required
        maxLength={200}
        value={name}
        onChange={setName}
        hint={
          file && (
            <>
              {wording.nameByRuleWhenDownloaded} <span className="num">{file.handedOutName}</span>
              {name !== file.handedOutName && (
                <button type="button" className="btn ml-2 !h-6" onClick={() => setName(file.handedOutName)}>
                  {wording.useThisName}
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
  const command = useCommand(api.documents.replace, ({ version }) => wording.versionHasTheNewContent(version), close);
  return (
    <FormDialog
      title={wording.useContentOfAnotherDocumentFor(page.number)}
      about={<p>{wording.itsFilesBecomeTheNextVersion}</p>}
      command={command}
      button={wording.useContent}
      ready={from !== ''}
      onSubmit={() => command.mutate({ params: { document: page.id }, body: { seen: page.stateTag, from, note } })}
      onClose={close}
    >
      <DocumentPicker label={wording.from} value={from} onChange={setFrom} />
      <TextArea label={wording.noteOnThisVersion} required rows={2} value={note} onChange={setNote} />
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
    ({ checkOn }) => (checkOn ? wording.savedTheNextCheckIsDue(showDay(checkOn)) : wording.saved),
    close,
  );
  return (
    <FormDialog
      title={wording.recordASourceCheckOf(page.number)}
      about={<p>{page.origin?.source || wording.noSourceIsEnteredYet}</p>}
      command={command}
      button={wording.recordCheck}
      onSubmit={() => command.mutate({ params: { document: page.id }, body: { edition, isNewer, note } })}
      onClose={close}
    >
      <TextField
        label={wording.editionFound}
        required
        value={edition}
        onChange={(value) => {
          setEdition(value);
          setIsNewer(value.trim() !== had.trim());
        }}
      />
      <Tick checked={isNewer} onChange={setIsNewer}>
        {wording.itDiffersFromTheEditionRegistered(had && ` (${had})`)}
      </Tick>
      <TextArea label={wording.note} optional rows={2} value={note} onChange={setNote} />
    </FormDialog>
  );
};
