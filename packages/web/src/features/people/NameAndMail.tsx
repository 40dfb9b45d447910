import type { ChangeEvent } from 'react';
import { TextField } from '../../ui/controls.tsx';
import { wording } from './wording.ts';

type Value = { name: string; email: string };

/** Name and mail address of a person. */
export const NameAndMail = ({ value, onChange }: { value: Value; onChange: (change: Partial<Value>) => void }) => {
  const field = (key: keyof Value) => ({
    required: true,
    value: value[key],
    onChange: (event: ChangeEvent<HTMLInputElement>) => onChange({ [key]: event.target.value }),
  });
  return (
    <>
      <TextField label={wording.name} {...field('name')} />
      <TextField label={wording.mailAddress} type="email" {...field('email')} />
    </>
  );
};
