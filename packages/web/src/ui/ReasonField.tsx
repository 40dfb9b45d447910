import { TextArea, TextField } from './controls.tsx';
import { wording } from './wording.ts';

/** The reason of a command: required for every command that stays on record. */
export const ReasonField = ({
  value,
  onChange,
  oneLine = false,
  rows = 2,
  ...about
}: {
  value: string;
  onChange: (reason: string) => void;
  oneLine?: boolean;
  rows?: number;
  hint?: string;
  wide?: boolean;
}) =>
  oneLine ? (
    <TextField label={wording.reason} required value={value} onChange={onChange} {...about} />
  ) : (
    <TextArea label={wording.reason} required rows={rows} value={value} onChange={onChange} {...about} />
  );
