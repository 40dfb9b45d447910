import { api, type BodyOf } from '@kanonos/contract';
import { LINK_KINDS, type LinkKind } from '@kanonos/core';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { Segments, Select, TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { Tick } from '../../ui/Tick.tsx';
import { DocumentPicker } from '../document/DocumentPicker.tsx';
import { wording } from './wording.ts';

type Goal = BodyOf<typeof api.links.add>['goal'];

/** Links the document to another one, to the web, or to an item that other systems know by its code. */
export const AddLink = ({
  number,
  itemKinds,
  close,
}: {
  number: string;
  /** The kinds of outside items that the organisation lists. */
  itemKinds: readonly { code: string; text: string }[];
  close: () => void;
}) => {
  const [to, setTo] = useState<Goal['to']>('document');
  const [kind, setKind] = useState<LinkKind>('refers to');
  const [target, setTarget] = useState('');
  const [pinned, setPinned] = useState(false);
  const [address, setAddress] = useState('https://');
  const [item, setItem] = useState({ kind: itemKinds[0]?.code ?? '', code: '', name: '' });
  const [note, setNote] = useState('');
  const command = useCommand(api.links.add, wording.linkAdded, close);
  const goal: Goal =
    to === 'document' ? { to, number: target, pinned } : to === 'web' ? { to, address } : { to, ...item };
  return (
    <FormDialog
      title={wording.addLinkTo(number)}
      command={command}
      button={wording.addLink}
      ready={to !== 'document' || target !== ''}
      onSubmit={() =>
        command.mutate({
          params: { document: number },
          body: { kind: to === 'document' ? kind : 'refers to', goal, note },
        })
      }
      onClose={close}
    >
      <Segments
        label={wording.linkTo}
        value={to}
        onChange={setTo}
        options={[
          { value: 'document', text: 'A document' },
          { value: 'web', text: wording.webAddress },
          { value: 'item', text: wording.externalItem },
        ]}
      />
      {to === 'document' && (
        <>
          <Select
            label={wording.relationOf(number)}
            value={kind}
            onChange={(value) => setKind(value as LinkKind)}
            options={LINK_KINDS.map((one) => ({ value: one, text: one }))}
          />
          <DocumentPicker label={wording.whichDocument} value={target} onChange={setTarget} />
          <Tick checked={pinned} onChange={setPinned}>
            {wording.pinnedToTheRevisionInForce}
          </Tick>
        </>
      )}
      {to === 'web' && <TextField label={wording.address} required value={address} onChange={setAddress} />}
      {to === 'item' && (
        <div className="grid grid-cols-2 gap-3">
          <Select
            label={wording.kind}
            value={item.kind}
            onChange={(value) => setItem({ ...item, kind: value })}
            options={itemKinds.map((one) => ({ value: one.code, text: one.text }))}
          />
          <TextField
            label={wording.code}
            required
            value={item.code}
            onChange={(value) => setItem({ ...item, code: value })}
          />
          <TextField
            wide
            label={wording.name}
            optional
            value={item.name}
            onChange={(value) => setItem({ ...item, name: value })}
          />
        </div>
      )}
      <TextField label={wording.reason} optional value={note} onChange={setNote} />
    </FormDialog>
  );
};
