import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { documentAddress } from '../../ui/addresses.ts';
import { showDay, showInstantDay } from '../../ui/format.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { TitleBlock } from '../document/TitleBlock.tsx';
import { ReviewForm } from './ReviewForm.tsx';
import type { Review } from './review.ts';
import { wording } from './wording.ts';

/** The periodic review of a document in force: how it was used, what became of earlier reviews, and the outcome of this one. */
export const ReviewPage = () => {
  const { number = '' } = useParams();
  const page = useQuery(ask(api.documents.page, { params: { document: number } }));
  const review = useQuery(ask(api.reviews.get, { params: { document: number } }));
  if (page.isPending || review.isPending) return <Loading what={wording.theReview} />;
  if (page.error || review.error)
    return <Failed error={page.error ?? review.error ?? new Error()} again={() => void review.refetch()} />;
  return (
    <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-3.5 py-3">
      <TitleBlock page={page.data} />
      <div className="grid grid-cols-[minmax(0,1fr)_344px] gap-3 max-lg:grid-cols-1">
        <div className="flex flex-col gap-3 max-lg:order-last">
          <UseSince number={number} review={review.data} />
          <Earlier review={review.data} />
        </div>
        <ReviewForm page={page.data} review={review.data} askAgain={review.refetch} />
      </div>
    </div>
  );
};

/** How the document was used since the last review: whether anybody needs it, and what they say of it. */
export const UseSince = ({ number, review }: { number: string; review: Review }) => {
  const { use } = review;
  const figures = [
    { name: wording.openings, n: use.openings, more: use.openings > 0 ? wording.people(use.readers) : '' },
    { name: wording.readingsSigned, n: use.readingsSigned, more: '' },
    { name: wording.comments, n: use.comments, more: use.openComments > 0 ? wording.ofThemOpen(use.openComments) : '' },
    { name: wording.changeRequests, n: use.changeRequests, more: '' },
    { name: wording.citedBy, n: use.citedBy, more: '' },
  ];
  return (
    <section className="pane p-4" aria-labelledby="use">
      <div className="mb-2 flex items-baseline justify-between gap-3">
        <h2 id="use">{wording.useSince(showDay(use.since))}</h2>
        <Link className="link" to={documentAddress(number)}>
          {wording.readTheText}
        </Link>
      </div>
      <dl className="grid grid-cols-5 gap-x-4 gap-y-3 max-md:grid-cols-2">
        {figures.map(({ name, n, more }) => (
          <div key={name}>
            <dd className="num text-[22px] leading-tight">{n}</dd>
            <dt className="text-[12px] text-ink-2">
              {name}
              {more && <span className="block text-ink-3">{more}</span>}
            </dt>
          </div>
        ))}
      </dl>
    </section>
  );
};

/** What became of earlier reviews, the newest first. */
export const Earlier = ({ review }: { review: Review }) => {
  const { zone } = useMe().organisation;
  return (
    <section className="pane p-4" aria-labelledby="earlier">
      <h2 id="earlier" className="mb-2">
        {wording.earlier}
      </h2>
      {review.earlier.length === 0 ? (
        <p className="text-ink-2">{wording.noEarlier}</p>
      ) : (
        <ol className="flex flex-col">
          {review.earlier.map((one) => (
            <li key={one.at} className="border-t border-line py-2 first:border-0 first:pt-0">
              <b className="font-semibold">{wording.outcomeWords[one.outcome]}</b>{' '}
              <span className="text-[12.5px] text-ink-2">
                {showInstantDay(one.at, zone)} · {one.by.name} · {wording.dueOn(showDay(one.due))}
                {one.next && one.next !== one.due && ` · ${wording.nextIfConfirmed(showDay(one.next))}`}
              </span>
              {one.comment && <span className="block text-[12.5px]">{one.comment}</span>}
            </li>
          ))}
        </ol>
      )}
    </section>
  );
};
