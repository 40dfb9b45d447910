import { api, type DocumentPage } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { Select, TextArea, TextField } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { PeoplePicker } from '../../ui/PersonPicker.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { FolderSelect } from '../registering/FolderSelect.tsx';
import { wording } from './wording.ts';

type Person = { id: string; name: string };

/** For whom, by when, and why: the part that every order has. */
const ForWhom = ({
  who,
  setWho,
  dueOn,
  setDueOn,
  why,
  setWhy,
}: {
  who: Person[];
  setWho: (who: Person[]) => void;
  dueOn: string;
  setDueOn: (day: string) => void;
  why: string;
  setWhy: (why: string) => void;
}) => (
  <>
    <PeoplePicker label={wording.who} single value={who} onChange={setWho} />
    <DateField label={wording.by} required value={dueOn} onChange={setDueOn} />
    <TextArea label={wording.why} required rows={3} value={why} onChange={setWhy} />
  </>
);

const useForWhom = () => {
  const [who, setWho] = useState<Person[]>([]);
  const [dueOn, setDueOn] = useState('');
  const [why, setWhy] = useState('');
  return {
    isReady: who.length > 0 && dueOn !== '',
    given: { assigneeId: who[0]?.id ?? '', dueOn, why },
    fields: <ForWhom {...{ who, setWho, dueOn, setDueOn, why, setWhy }} />,
  };
};

/** Orders a revision of the document in view. */
export const OrderRevisionDialog = ({ page, close }: { page: DocumentPage; close: () => void }) => {
  const { isReady, given, fields } = useForWhom();
  const command = useCommand(api.orders.give, ({ number }) => wording.given(number), close);
  return (
    <FormDialog
      title={wording.orderRevisionOf(page.number)}
      about={<p className="text-[12.5px] text-ink-2">{wording.writeAbout}</p>}
      command={command}
      button={wording.giveOrder}
      ready={isReady}
      onSubmit={() => command.mutate({ body: { kind: 'revise', document: page.id, ...given } })}
      onClose={close}
    >
      {fields}
    </FormDialog>
  );
};

/** Orders a document that is not there yet, with the number that it will have. */
export const OrderDocumentDialog = ({ close }: { close: () => void }) => {
  const types = useQuery({ ...ask(api.documents.types), staleTime: 60_000 });
  const folders = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const [typeId, setTypeId] = useState('');
  const [folderId, setFolderId] = useState('');
  const [title, setTitle] = useState('');
  const [reserve, setReserve] = useState(true);
  const { isReady, given, fields } = useForWhom();
  const command = useCommand(api.orders.give, ({ number }) => wording.given(number), close);
  const type = types.data?.types.find(({ id }) => id === typeId);
  const isKept = reserve && type?.numbering !== null;
  return (
    <FormDialog
      title={wording.orderDocument}
      about={<p className="text-[12.5px] text-ink-2">{wording.writeAbout}</p>}
      command={command}
      button={wording.giveOrder}
      ready={isReady && typeId !== '' && folderId !== ''}
      onSubmit={() => command.mutate({ body: { kind: 'write', typeId, folderId, title, reserve: isKept, ...given } })}
      onClose={close}
    >
      <TextField label={wording.title} required maxLength={250} value={title} onChange={setTitle} />
      <Select
        label={wording.type}
        required
        value={typeId}
        empty={wording.chooseAType}
        options={(types.data?.types ?? []).map(({ id, code, name }) => ({ value: id, text: `${code} ${name}` }))}
        onChange={setTypeId}
      />
      <FolderSelect folders={folders.data?.folders ?? []} value={folderId} onChange={setFolderId} />
      {type && type.numbering !== null && (
        <div>
          <Tick checked={reserve} onChange={setReserve}>
            {wording.reserve}
          </Tick>
          <p className="text-[12px] text-ink-2">{wording.reserveHint}</p>
        </div>
      )}
      {fields}
    </FormDialog>
  );
};
