import { TextField } from '../../ui/controls.tsx';
import { wording } from './wording.ts';

/** Name and code of the organisation. */
export const NameAndCode = ({
  value,
  onChange,
}: {
  value: { name: string; code: string };
  onChange: (change: { name?: string; code?: string }) => void;
}) => (
  <>
    <TextField label={wording.name} required value={value.name} onChange={(value) => onChange({ name: value })} />
    <TextField
      label={wording.code}
      required
      maxLength={8}
      className="inp num"
      value={value.code}
      onChange={(value) => onChange({ code: value.toUpperCase() })}
      hint={wording.usedInTheNumbersOfTypes}
    />
  </>
);
