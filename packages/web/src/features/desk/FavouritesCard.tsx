import { api, type Desk } from '@kanonos/contract';
import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { useCommand } from '../../app/useCommand.ts';
import { documentAddress, workAddress } from '../../ui/addresses.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { HoldWords } from '../../ui/marks.tsx';
import { Refusals } from '../../ui/states.tsx';
import { moved } from './cards.ts';
import { wording } from './wording.ts';

/** Documents that the person keeps at hand, in an order of their own. */
export const FavouritesCard = ({ favourites }: { favourites: Desk['favourites'] }) => {
  const [sorting, setSorting] = useState(false);
  const order = useCommand(api.favourites.order);
  const set = useCommand(api.favourites.set, wording.removedFromFavourites);
  const move = (from: number, by: -1 | 1) =>
    order.mutate({ body: { documentIds: moved(favourites, from, by).map((one) => one.documentId) } });
  return (
    <>
      <div className="mb-1.5 flex items-baseline justify-between">
        <h2>{wording.favourites}</h2>
        <button type="button" className="btn btn-quiet !h-6 !px-1 text-[12px]" onClick={() => setSorting(!sorting)}>
          {sorting ? wording.close : wording.edit}
        </button>
      </div>
      <ul className="text-[12.5px] leading-[1.5]">
        {favourites.map((row, i) => (
          <li key={row.documentId} className="mb-1 flex items-start gap-1">
            <Link
              to={row.state === 'in force' ? documentAddress(row.number) : workAddress(row.number)}
              className="group min-w-0 flex-1"
            >
              <span className="num mr-1 group-hover:underline">{row.number}</span>
              {row.label}
              <HoldWords when={row.onHold} />
              <span className="block truncate text-ink-2" title={row.title}>
                {row.title}
              </span>
            </Link>
            {sorting && (
              <>
                <IconButton label={wording.moveUp(row.number)} disabled={i === 0} onClick={() => move(i, -1)}>
                  <ArrowUp size={14} aria-hidden />
                </IconButton>
                <IconButton
                  label={wording.moveDown(row.number)}
                  disabled={i === favourites.length - 1}
                  onClick={() => move(i, 1)}
                >
                  <ArrowDown size={14} aria-hidden />
                </IconButton>
                <IconButton
                  label={wording.removeFromFavourites(row.number)}
                  onClick={() => set.mutate({ params: { document: row.documentId }, body: { favourite: false } })}
                >
                  <X size={14} aria-hidden />
                </IconButton>
              </>
            )}
          </li>
        ))}
      </ul>
      <Refusals error={order.error ?? set.error} />
    </>
  );
};
