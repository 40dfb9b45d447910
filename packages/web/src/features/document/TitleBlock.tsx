import type { DocumentPage } from '@kanonos/contract';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { showDay, showInstantDay } from '../../ui/format.ts';
import { NotchBar, RevisionMark } from '../../ui/marks.tsx';
import { stateWords } from './sentences.ts';
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
    <div className="tb grid-cols-[142px_minmax(0,1fr)_152px_132px_138px_74px] grid-rows-2">
      <div className="row-span-2 border-r border-line">
        <span className="cap">{wording.number}</span>
        <b className="num !mt-1.5 !text-[13px]">{page.number}</b>
      </div>
      <div className="row-span-2 border-r border-line">
        <span className="cap">{wording.title}</span>
        <h1 className="mt-1 line-clamp-2">{revision.title}</h1>
        <span className="block truncate text-[12px] text-ink-2">
          {page.type.name} ·{' '}
          <Link className="hover:underline" to={`/register?folder=${page.folder.id}`}>
            {page.folder.path.join(' / ')}
          </Link>
          {page.department && ` · ${page.department}`}
        </span>
      </div>
      <Cell caption={wording.owner} className="border-r border-b border-line">
        {page.owner.name}
      </Cell>
      <Cell caption={wording.change} className="border-r border-b border-line">
        {stateWords(revision.changeKind)}
      </Cell>
      <Cell caption={wording.effective} className="border-r border-b border-line">
        {effective}
      </Cell>
      <div className="row-span-2 grid place-items-center content-start gap-2 bg-film-2">
        <span className="cap">{wording.rev}</span>
        <RevisionMark label={revision.label} mark={revision.mark} size="big" />
      </div>
      <Cell caption={wording.inForceNow} className="border-r border-line">
        {page.inForce
          ? wording.inForceSinceSince(
              page.inForce.label || 'yes',
              showInstantDay(page.inForce.since, me.organisation.zone),
            )
          : 'none'}
      </Cell>
      <Cell caption={wording.nextReviewDate} className="border-r border-line">
        <span className={page.reviewOn && page.reviewOn < me.organisation.today ? 'text-vermilion' : ''}>
          {page.reviewOn ? showDay(page.reviewOn) : '–'}
        </span>
      </Cell>
      <div className="border-r border-line">
        <NotchBar
          state={revision.state}
          words={`${stateWords(revision.state)}${open && round ? wording.openNOfSteps(open.n, round.steps.length) : revision.state === 'draft' ? wording.versionVersions(revision.versions) : ''}`}
        />
      </div>
    </div>
  );
};
