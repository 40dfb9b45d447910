import type { ReactNode } from 'react';

/** A list beside what is chosen in it; on a small screen above it, where the list takes no more than a part of the height. */
export const ListAndDetail = ({ children }: { children: ReactNode }) => (
  <div className="grid min-h-0 flex-1 grid-cols-[288px_minmax(0,1fr)] max-lg:grid-cols-1 max-lg:grid-rows-[auto_minmax(0,1fr)] max-lg:[&>:first-child]:max-h-[34vh] max-lg:[&>:first-child]:border-r-0 max-lg:[&>:first-child]:border-b">
    {children}
  </div>
);
