import { TextField } from '../../ui/controls.tsx';
import { wording } from './wording.ts';

type Value = { name: string; email: string };

/** Name and mail address of a person. */
export const NameAndMail = ({ value, onChange }: { value: Value; onChange: (change: Partial<Value>) => void }) => {
  const field = (key: keyof Value) => ({
    required: true,
    value: value[key],
    onChange: (text: string) => onChange({ [key]: text }),
  });
  return (
    <>
      <TextField label={wording.name} {...field('name')} />
      <TextField label={wording.mailAddress} type="email" {...field('email')} />
    </>
  );
};
