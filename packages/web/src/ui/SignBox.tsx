import { TextField } from './controls.tsx';
import { wording } from './wording.ts';

export type SignWith = { name: string; password: string };

/** Name and password for a signature: the first of a period of access asks both, later ones the password. */
export const SignBox = ({
  asksForName,
  signer,
  value,
  onChange,
}: {
  asksForName: boolean;
  signer: string;
  value: SignWith;
  onChange: (value: SignWith) => void;
}) => (
  <div className="flex flex-col gap-2">
    {asksForName && (
      <TextField
        label={wording.signInName}
        autoComplete="username"
        required
        value={value.name}
        onChange={(event) => onChange({ ...value, name: event.target.value })}
        hint={wording.theFirstSignatureOfAPeriod}
      />
    )}
    <TextField
      label={wording.passwordOf(signer)}
      type="password"
      autoComplete="current-password"
      required
      value={value.password}
      onChange={(event) => onChange({ ...value, password: event.target.value })}
    />
  </div>
);
