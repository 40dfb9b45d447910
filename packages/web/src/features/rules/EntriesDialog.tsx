import type { Key, ReactNode } from 'react';
import { OrganisationDialog } from './OrganisationDialog.tsx';
import { wording } from './wording.ts';

/** A setting of the organisation that is a list: each entry is changed in place or removed, and others are added below. */
export const EntriesDialog = <T,>({
  entries,
  edit,
  added,
  addEntry,
  firstLine,
  fields,
  below,
  ...dialog
}: Omit<Parameters<typeof OrganisationDialog>[0], 'children'> & {
  entries: readonly T[];
  edit: (entries: T[]) => void;
  added: T;
  addEntry: string;
  /** The grid of the first line, with a column for its button. */
  firstLine: string;
  fields: (entry: T, change: (part: Partial<T>) => void, at: number) => ReactNode;
  below: (entry: T, change: (part: Partial<T>) => void) => ReactNode;
}) => (
  <OrganisationDialog {...dialog}>
    <div className="flex max-h-[50vh] flex-col gap-4 overflow-y-auto pr-1">
      {entries.map((entry, at) => {
        const change = (part: Partial<T>) => edit(entries.map((one, i) => (i === at ? { ...one, ...part } : one)));
        return (
          // An entry has no other identity than its place while it is made.
          <div key={at as Key} className="flex flex-col gap-2 border-l-3 border-line pl-2.5">
            <div className={`grid ${firstLine} items-end gap-2`}>
              {fields(entry, change, at)}
              <button type="button" className="btn" onClick={() => edit(entries.filter((_, i) => i !== at))}>
                {wording.remove}
              </button>
            </div>
            {below(entry, change)}
          </div>
        );
      })}
      <div>
        <button type="button" className="btn !h-6" onClick={() => edit([...entries, added])}>
          {addEntry}
        </button>
      </div>
    </div>
  </OrganisationDialog>
);
