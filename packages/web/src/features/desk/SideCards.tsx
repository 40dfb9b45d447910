import type { Desk, DeskCard } from '@kanonos/contract';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { documentAddress } from '../../ui/addresses.ts';
import { ago, showInstantDay } from '../../ui/format.ts';
import { HoldWords } from '../../ui/marks.tsx';
import { CARD_NAMES } from './cards.ts';
import { FavouritesCard } from './FavouritesCard.tsx';
import { wording } from './wording.ts';

/** What a card beside the tasks shows; null where there is nothing. */
const CONTENT: Partial<Record<DeskCard, (desk: Desk) => ReactNode>> = {
  attention: (desk) => desk.attention.length > 0 && <Attention desk={desk} />,
  organisation: (desk) => desk.organisation && <Organisation figures={desk.organisation} />,
  favourites: (desk) => desk.favourites.length > 0 && <FavouritesCard favourites={desk.favourites} />,
  'checked out': (desk) => desk.checkedOut.length > 0 && <CheckedOut desk={desk} />,
  'newly in force': (desk) => desk.newlyInForce.length > 0 && <NewlyInForce desk={desk} />,
  'recently opened': (desk) => desk.recentlyOpened.length > 0 && <RecentlyOpened desk={desk} />,
};

/** What is beside the tasks, in the order that the person wants. */
export const SideCards = ({ desk, shown }: { desk: Desk; shown: readonly DeskCard[] }) => (
  <aside aria-label={wording.elsewhere} className="flex min-w-0 flex-col gap-3">
    {shown.map((card) => {
      const content = CONTENT[card]?.(desk);
      if (!content) return null;
      return (
        <section key={card} aria-label={CARD_NAMES[card]} className="pane px-3 py-2.5">
          {content}
        </section>
      );
    })}
  </aside>
);

const Attention = ({ desk }: { desk: Desk }) => (
  <>
    <h2 className="mb-1.5">{wording.needsAttention}</h2>
    <ul className="text-[12.5px] leading-[1.6]">
      {desk.attention.map((one) => (
        <li key={one.text}>
          <Link to={one.link} className="font-semibold text-vermilion hover:underline">
            {one.text}
          </Link>
        </li>
      ))}
    </ul>
  </>
);

const Organisation = ({ figures }: { figures: NonNullable<Desk['organisation']> }) => (
  <>
    <h2 className="mb-1.5">{wording.theOrganisationToday}</h2>
    <dl className="grid grid-cols-[1fr_auto] gap-x-2.5 gap-y-1">
      <Figure name={wording.routesInProgress} value={String(figures.running)} />
      <Figure name={wording.ofWhichOverdue} value={String(figures.overdue)} bad={figures.overdue > 0} />
      {figures.onTimePercent !== null && (
        <Figure name={wording.readingSignedOnTime} value={`${figures.onTimePercent} %`} />
      )}
      <Figure name={wording.reviewsDueIn30Days} value={String(figures.reviewsSoon)} />
    </dl>
  </>
);

const CheckedOut = ({ desk }: { desk: Desk }) => (
  <>
    <h2 className="mb-1.5">{wording.checkedOutByOthers}</h2>
    <ul className="text-[12.5px] leading-[1.7]">
      {desk.checkedOut.map((row) => (
        <li key={row.number}>
          <DocumentLink number={row.number} /> {row.person},{' '}
          <span className={row.days > 14 ? 'text-vermilion' : ''}>{row.days ? `${row.days} d` : 'today'}</span>
        </li>
      ))}
    </ul>
  </>
);

const NewlyInForce = ({ desk }: { desk: Desk }) => {
  const me = useMe();
  return (
    <>
      <h2 className="mb-1.5">{wording.newlyInForce}</h2>
      <ul className="text-[12.5px] leading-[1.5]">
        {desk.newlyInForce.map((row) => (
          <li key={row.number + row.label} className="mb-1">
            <DocumentLink number={row.number} /> {row.label && wording.revRow(row.label)}
            {showInstantDay(row.since, me.organisation.zone, true)}
            <HoldWords when={row.onHold} />
            <span className="block truncate text-ink-2">{row.title}</span>
          </li>
        ))}
      </ul>
    </>
  );
};

const RecentlyOpened = ({ desk }: { desk: Desk }) => (
  <>
    <h2 className="mb-1.5">{wording.recentlyOpened}</h2>
    <ul className="text-[12.5px] leading-[1.7]">
      {desk.recentlyOpened.map((row) => (
        <li key={row.number}>
          <DocumentLink number={row.number} /> {row.label && `${row.label}, `}
          {ago(row.at)}
          <HoldWords when={row.onHold} />
        </li>
      ))}
    </ul>
  </>
);

const Figure = ({ name, value, bad }: { name: string; value: string; bad?: boolean }) => (
  <>
    <dt className="text-ink-2">{name}</dt>
    <dd className={`num text-right !font-semibold ${bad ? 'text-vermilion' : ''}`}>{value}</dd>
  </>
);

const DocumentLink = ({ number }: { number: string }) => (
  <Link to={documentAddress(number)} className="num mr-1 hover:underline">
    {number}
  </Link>
);
