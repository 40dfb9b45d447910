import { useEffect, useRef } from 'react';
import { Problem } from '../app/client.ts';
import { useMe } from '../app/session.tsx';
import { TextField } from './controls.tsx';
import { wording } from './wording.ts';

export type SignWith = { name: string; password: string };

/** Name and password for a signature: the first of a period of access asks both, later ones the password. */
export const SignBox = ({
  asksForName,
  value,
  onChange,
  error = null,
}: {
  asksForName: boolean;
  value: SignWith;
  onChange: (value: SignWith) => void;
  /** The refusal of the command: a wrong password moves the focus back to its field. */
  error?: Error | null;
}) => {
  const me = useMe();
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!(error instanceof Problem) || error.code !== 'signing_wrong') return;
    const password = box.current?.querySelector<HTMLInputElement>('input[type=password]');
    password?.focus();
    password?.select();
  }, [error]);
  return (
    <div ref={box} className="flex flex-col gap-2">
      {asksForName && (
        <TextField
          label={wording.signInName}
          autoComplete="username"
          required
          value={value.name}
          onChange={(text) => onChange({ ...value, name: text })}
          hint={wording.theFirstSignatureOfAPeriod}
        />
      )}
      <TextField
        label={wording.passwordOf(me.name)}
        type="password"
        autoComplete="current-password"
        required
        value={value.password}
        onChange={(text) => onChange({ ...value, password: text })}
      />
    </div>
  );
};
