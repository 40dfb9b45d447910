import { api, type DocumentPage } from '@kanonos/contract';
import { Bookmark } from 'lucide-react';
import { useCommand } from '../../app/useCommand.ts';
import { IconButton } from '../../ui/IconButton.tsx';
import { wording } from './wording.ts';

/** Keeps the document at hand on the person's Desk, or no longer. */
export const FavouriteButton = ({ page }: { page: DocumentPage }) => {
  const command = useCommand(
    api.favourites.set,
    page.favourite ? wording.removedFromFavourites : wording.addedToFavourites,
  );
  return (
    <IconButton
      label={page.favourite ? wording.removeFromFavourites : wording.addToFavourites}
      aria-pressed={page.favourite}
      disabled={command.isPending}
      onClick={() => command.mutate({ params: { document: page.id }, body: { favourite: !page.favourite } })}
    >
      <Bookmark size={15} aria-hidden className={page.favourite ? 'fill-petrol text-petrol' : 'text-ink-3'} />
    </IconButton>
  );
};
