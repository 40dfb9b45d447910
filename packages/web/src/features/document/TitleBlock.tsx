import type { DocumentPage } from '@kanonos/contract';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { showDay, showInstantDay } from '../../ui/format.ts';
import { NotchBar, RevisionMark } from '../../ui/marks.tsx';
import { stateWords } from '../../ui/stateWords.ts';
import { wording as ui } from '../../ui/wording.ts';
import { FavouriteButton } from './FavouriteButton.tsx';
import { wording } from './wording.ts';

const Cell = ({ caption, children, className = '' }: { caption: string; children: ReactNode; className?: string }) => (
  <div className={className}>
    <span className="cap">{caption}</span>
    <b className="truncate">{children}</b>
  </div>
);

/** The drawing's title block brought to the screen: number, title, owner, change, dates, state, revision. */
export const TitleBlock = ({ page }: { page: DocumentPage }) => {
  const me = useMe();
  const { revision } = page;
  const round = page.rounds[0];
  const open =
    revision.id === page.revisions.find((r) => r.label === page.work?.label)?.id
      ? round?.steps.find((step) => step.state === 'open')
      : undefined;
  const effective = revision.effectiveFrom
    ? showInstantDay(revision.effectiveFrom, me.organisation.zone)
    : revision.plannedOn
      ? showDay(revision.plannedOn)
      : wording.onRelease;
  return (
    <div className="tb grid-cols-[142px_minmax(0,1fr)_152px_132px_138px_74px] grid-rows-2 max-lg:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_74px] max-lg:grid-rows-none max-lg:[&>div]:border-b max-lg:[&>div]:border-line">
      <div className="relative row-span-2 border-r border-line max-lg:order-1 max-lg:col-span-2 max-lg:row-span-1">
        <span className="cap">{wording.number}</span>
        <b className="num !mt-1.5 !text-[13px]">{page.number}</b>
        <span className="absolute top-1 right-1">
          <FavouriteButton page={page} />
        </span>
      </div>
      <div className="row-span-2 border-r border-line max-lg:order-3 max-lg:col-span-3 max-lg:row-span-1">
        <span className="cap">{wording.title}</span>
        <h1 className="mt-1 line-clamp-2">{revision.title}</h1>
        <span className="block truncate text-[12px] text-ink-2">
          {page.type.name} ·{' '}
          <Link className="hover:underline" to={`/register?folder=${page.folder.id}`}>
            {page.folder.path.join(' / ')}
          </Link>
          {page.department && ` · ${page.department.name}`}
        </span>
      </div>
      <Cell caption={wording.owner} className="max-lg:order-4 border-r border-b border-line">
        {page.owner.name}
      </Cell>
      <Cell caption={wording.change} className="max-lg:order-5 max-lg:col-span-2 border-r border-b border-line">
        {stateWords(revision.changeKind)}
      </Cell>
      <Cell caption={wording.effective} className="max-lg:order-6 border-r border-b border-line">
        {effective}
      </Cell>
      <div className="row-span-2 grid max-lg:order-2 max-lg:row-span-1 max-lg:[&>.cap]:hidden place-items-center content-start gap-2 bg-film-2">
        <span className="cap">{wording.rev}</span>
        <RevisionMark label={revision.label} mark={revision.mark} size="big" />
      </div>
      <Cell caption={wording.inForceNow} className="max-lg:order-7 max-lg:col-span-2 border-r border-line">
        {page.inForce
          ? wording.inForceSinceSince(
              page.inForce.label || 'yes',
              showInstantDay(page.inForce.since, me.organisation.zone),
            )
          : 'none'}
      </Cell>
      <Cell caption={wording.nextReviewDate} className="max-lg:order-8 border-r border-line">
        <span className={page.reviewOn && page.reviewOn < me.organisation.today ? 'text-vermilion' : ''}>
          {page.reviewOn ? showDay(page.reviewOn) : '–'}
        </span>
      </Cell>
      <div className="border-r border-line max-lg:order-9 max-lg:col-span-2">
        <NotchBar
          isWarning={revision.mark === 'on hold'}
          state={revision.state}
          words={`${revision.mark === 'on hold' ? ui.onHoldDoNotUse : revision.ownState ? wording.withOwnState(stateWords(revision.state), revision.ownState) : stateWords(revision.state)}${open && round ? wording.openNOfSteps(open.stage, Math.max(...round.steps.map(({ stage }) => stage))) : revision.state === 'draft' ? wording.versionVersions(revision.versions) : ''}`}
        />
      </div>
    </div>
  );
};
