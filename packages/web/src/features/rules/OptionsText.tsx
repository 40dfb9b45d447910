import type { FieldOption } from '@kanonos/contract';
import { useState } from 'react';
import { TextArea } from '../../ui/controls.tsx';
import { count } from '../../ui/format.ts';
import { ReadTable } from '../../ui/ReadTable.tsx';
import { fromLines, optionRows, toLines } from './optionLines.ts';
import { wording } from './wording.ts';

/** Options as lines, one each, so that a column of a spreadsheet can be pasted as it is. */
export const OptionsText = ({
  label,
  options,
  onChange,
  rows = 5,
}: {
  label: string;
  options: readonly FieldOption[];
  onChange: (options: FieldOption[]) => void;
  rows?: number;
}) => {
  const [text, setText] = useState(() => toLines(options));
  const take = (next: string) => {
    setText(next);
    onChange(fromLines(next));
  };
  return (
    <div>
      <TextArea
        label={label}
        rows={rows}
        className="inp num !whitespace-pre [tab-size:14]"
        spellCheck={false}
        value={text}
        onChange={take}
        hint={wording.onePerLineCodeTextParent(count(options.length, 'option', 'options'))}
      />
      <ReadTable onRead={(rows) => take(optionRows(rows))} />
    </div>
  );
};
