import { TextField } from './controls.tsx';

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
        label="Sign-in name"
        autoComplete="username"
        required
        value={value.name}
        onChange={(event) => onChange({ ...value, name: event.target.value })}
        hint="The first signature of a period asks for name and password."
      />
    )}
    <TextField
      label={`Password of ${signer}`}
      type="password"
      autoComplete="current-password"
      required
      value={value.password}
      onChange={(event) => onChange({ ...value, password: event.target.value })}
    />
  </div>
);
