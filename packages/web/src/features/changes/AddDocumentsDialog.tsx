import { api } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextArea } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { DocumentPicker } from '../document/DocumentPicker.tsx';
import { wording } from './wording.ts';

/** Names documents that a note affects, one after the other. */
export const AddDocumentsDialog = ({ number, close }: { number: string; close: () => void }) => {
  const [numbers, setNumbers] = useState<readonly string[]>([]);
  const [what, setWhat] = useState('');
  const command = useCommand(api.changes.addAffected, ({ added }) => wording.added(added), close);
  return (
    <FormDialog
      title={wording.addDocumentsTo(number)}
      command={command}
      button={wording.addDocuments}
      ready={numbers.length > 0}
      onSubmit={() => command.mutate({ params: { document: number }, body: { numbers: [...numbers], what } })}
      onClose={close}
    >
      <DocumentPicker
        label={wording.documentsChosen}
        value=""
        onChange={(chosen) => chosen && setNumbers((before) => [...new Set([...before, chosen])])}
      />
      {numbers.length > 0 && (
        <ul className="flex flex-wrap gap-1.5">
          {numbers.map((one) => (
            <li key={one} className="flex items-center gap-1 border border-line bg-film-2 pl-2">
              <span className="num">{one}</span>
              <button
                type="button"
                className="btn btn-quiet !h-6 min-w-6 !px-1.5"
                aria-label={wording.take(one)}
                onClick={() => setNumbers((before) => before.filter((other) => other !== one))}
              >
                ×
              </button>
            </li>
          ))}
        </ul>
      )}
      <TextArea label={wording.whatChanges} optional rows={2} value={what} onChange={setWhat} />
    </FormDialog>
  );
};
