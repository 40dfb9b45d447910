import { api, type PlanFolder } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { documentAddress } from '../../ui/addresses.ts';
import { Dialog } from '../../ui/controls.tsx';
import { count } from '../../ui/format.ts';
import { HoldWords, RevisionMark } from '../../ui/marks.tsx';
import { Failed, Loading } from '../../ui/states.tsx';
import { planPathOf } from './paths.ts';
import { wording } from './wording.ts';

/** Folders with the same value of a field as this one: other projects of this client, other folders of this site. */
export const FolderKin = ({
  folder,
  folders,
  fields,
}: {
  folder: PlanFolder;
  folders: readonly PlanFolder[];
  fields: readonly { key: string; label: string }[];
}) => {
  const [peek, setPeek] = useState<PlanFolder | null>(null);
  const below = (one: PlanFolder): boolean => {
    const parent = folders.find((other) => other.id === one.parentId);
    return one.id === folder.id || (parent !== undefined && below(parent));
  };
  const above = new Set<string>();
  for (
    let at = folders.find((one) => one.id === folder.parentId);
    at;
    at = folders.find((one) => one.id === at?.parentId)
  )
    above.add(at.id);
  const kin = Object.entries(folder.effective).flatMap(([key, value]) => {
    // A folder counts for its whole branch where it or the nearest folder above sets the field.
    const same = folders.filter(
      (one) =>
        !below(one) &&
        !above.has(one.id) &&
        one.effective[key] === value &&
        (one.metadata[key] === value || (one.parentId !== null && above.has(one.parentId))),
    );
    return same.length ? [{ key, label: fields.find((field) => field.key === key)?.label ?? key, value, same }] : [];
  });
  return (
    <>
      <section aria-label={wording.browsedFromHere} className="mt-4 max-w-4xl border-t border-line pt-3">
        <div className="flex flex-wrap items-center gap-2">
          <button type="button" className="btn" onClick={() => setPeek(folder)}>
            {wording.showWhatIsInForce}
          </button>
          {kin.map(({ key, label, value, same }) => (
            <span key={key} className="flex flex-wrap items-center gap-1">
              <span className="text-ink-2">{wording.labelValueAlso(label, value)}</span>
              {same.map((one) => (
                <button key={one.id} type="button" className="btn !h-6" onClick={() => setPeek(one)}>
                  {one.name}
                </button>
              ))}
            </span>
          ))}
        </div>
      </section>
      {peek && <Peek folder={peek} path={planPathOf(peek, folders)} close={() => setPeek(null)} />}
    </>
  );
};

/** What is in force in a folder and below it, looked at without leaving where one is. */
const Peek = ({ folder, path, close }: { folder: PlanFolder; path: string; close: () => void }) => {
  const { data, error, isPending } = useQuery(
    ask(api.find.register, { query: { revisionScope: 'in force', folder: folder.id, reach: 'below', limit: 200 } }),
  );
  return (
    <Dialog open onClose={close} title={path} wide>
      {isPending ? (
        <Loading what={wording.whatIsInForce} />
      ) : error ? (
        <Failed error={error} />
      ) : (
        <>
          <p className="text-ink-2">
            {data.rows.length === 0
              ? wording.nothingIsInForceHere
              : wording.inForce(count(data.rows.length, 'document', 'documents'), data.next ? wording.andMore : '')}
          </p>
          <ul className="max-h-[52vh] overflow-y-auto border border-line-2 empty:hidden">
            {data.rows.map((row) => (
              <li
                key={row.revisionId}
                className="grid grid-cols-[40px_118px_minmax(0,1fr)_auto] items-center gap-2 border-b border-line-2 px-2 py-1 last:border-0"
              >
                <RevisionMark label={row.label} mark={row.mark} />
                <Link className="link num" to={documentAddress(row.number)}>
                  {row.number}
                </Link>
                <span className="truncate">
                  {row.title}
                  <HoldWords when={row.mark === 'on hold'} />
                </span>
                <span className="text-[11.5px] text-ink-3">{row.folder}</span>
              </li>
            ))}
          </ul>
        </>
      )}
      <div className="flex justify-end gap-2">
        <Link className="btn" to={`/register?scope=in force&folder=${folder.id}`}>
          {wording.openInTheRegister}
        </Link>
        <button type="button" className="btn btn-pri" onClick={close}>
          {wording.back}
        </button>
      </div>
    </Dialog>
  );
};
