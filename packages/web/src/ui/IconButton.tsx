import type { ButtonHTMLAttributes } from 'react';

/** A small button that shows a sign; its name is told when one points at it, and to screen readers. */
export const IconButton = ({
  label,
  ...props
}: { label: string } & Omit<ButtonHTMLAttributes<HTMLButtonElement>, 'type' | 'title'>) => (
  <button
    type="button"
    title={label}
    aria-label={label}
    {...props}
    className={`btn btn-quiet grid !size-6 shrink-0 place-items-center !p-0 max-md:!size-9 ${props.className ?? ''}`}
  />
);
