import type { ReactNode } from 'react';

/** A box to tick with its sentence. */
export const Tick = ({
  checked,
  onChange,
  disabled,
  children,
}: {
  checked: boolean;
  onChange: (checked: boolean) => void;
  disabled?: boolean;
  children: ReactNode;
}) => (
  <label className="flex cursor-pointer items-start gap-2 py-[3px]">
    <input
      type="checkbox"
      className="mt-[3px] accent-petrol"
      checked={checked}
      disabled={disabled}
      onChange={(event) => onChange(event.target.checked)}
    />
    <span className="min-w-0">{children}</span>
  </label>
);
