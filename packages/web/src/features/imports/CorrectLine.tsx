import { api, type ImportLine } from '@kanonos/contract';
import { useState } from 'react';
import { useCommand } from '../../app/useCommand.ts';
import { TextField } from '../../ui/controls.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { wording } from './wording.ts';

/** Corrects the cells of one line where it stands, instead of in the list outside. */
export const CorrectLine = ({
  importId,
  headings,
  line,
  close,
}: {
  importId: string;
  headings: readonly string[];
  line: ImportLine;
  close: () => void;
}) => {
  const [cells, setCells] = useState(() => headings.map((_, i) => line.cells[i] ?? ''));
  const command = useCommand(api.imports.correctLine, wording.lineCorrected(line.line), close);
  return (
    <FormDialog
      title={wording.correctLine(line.line)}
      wide
      about={
        line.reasons.length > 0 && (
          <ul>
            {line.reasons.map((reason) => (
              <li key={reason} className="text-vermilion">
                {reason}
              </li>
            ))}
          </ul>
        )
      }
      command={command}
      button={wording.saveLine}
      ready={cells.some((cell, i) => cell !== (line.cells[i] ?? ''))}
      onSubmit={() => command.mutate({ params: { id: importId, line: line.line }, body: { cells, seen: line.cells } })}
      onClose={close}
    >
      <div className="grid max-h-[50vh] grid-cols-2 gap-3 overflow-y-auto max-md:grid-cols-1">
        {headings.map((heading, i) => (
          <TextField
            // biome-ignore lint/suspicious/noArrayIndexKey: a column is its place; headings may repeat
            key={i}
            label={heading || wording.columnI(i + 1)}
            value={cells[i] ?? ''}
            onChange={(value) => setCells(cells.map((cell, at) => (at === i ? value : cell)))}
          />
        ))}
      </div>
    </FormDialog>
  );
};
