import type { ReactNode } from 'react';

/** What a tab shows: it scrolls by itself, and the keyboard reaches it. */
export const TabPanel = ({
  label,
  className = '',
  children,
}: {
  label: string;
  className?: string;
  children: ReactNode;
}) => (
  <div role="tabpanel" tabIndex={0} aria-label={label} className={`min-h-0 flex-1 overflow-y-auto ${className}`}>
    {children}
  </div>
);
