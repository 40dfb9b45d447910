import type { ReactNode } from 'react';

/** A page that is one column and scrolls: its title, a sentence about it, what can be done, and its content. */
export const Page = ({
  title,
  about,
  actions,
  children,
}: {
  title: ReactNode;
  about?: ReactNode;
  actions?: ReactNode;
  children: ReactNode;
}) => (
  <div className="flex-1 overflow-y-auto px-4 py-3.5">
    <div className="mb-3 flex flex-wrap items-end justify-between gap-x-3 gap-y-2">
      <div className="min-w-0">
        <h1>{title}</h1>
        {about && <span className="text-ink-2">{about}</span>}
      </div>
      {actions && <span className="flex flex-wrap items-center gap-2">{actions}</span>}
    </div>
    {children}
  </div>
);
