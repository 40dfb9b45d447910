import type { DocumentPage } from '@kanonos/contract';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { showDay, showInstantDay } from '../../ui/format.ts';
import { NotchBar, RevisionMark } from '../../ui/marks.tsx';
import { stateWords } from './sentences.ts';

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
      : 'on release';
  return (
    <div className="tb grid-cols-[142px_minmax(0,1fr)_152px_132px_138px_74px] grid-rows-2">
      <div className="row-span-2 border-r border-line">
        <span className="cap">Number</span>
        <b className="num !mt-1.5 !text-[13px]">{page.number}</b>
      </div>
      <div className="row-span-2 border-r border-line">
        <span className="cap">Title</span>
        <h1 className="mt-1 line-clamp-2">{revision.title}</h1>
        <span className="block truncate text-[12px] text-ink-2">
          {page.type.name} ·{' '}
          <Link className="hover:underline" to={`/register?folder=${page.folder.id}`}>
            {page.folder.path.join(' / ')}
          </Link>
          {page.department && ` · ${page.department}`}
        </span>
      </div>
      <Cell caption="Owner" className="border-r border-b border-line">
        {page.owner.name}
      </Cell>
      <Cell caption="Change" className="border-r border-b border-line">
        {stateWords(revision.changeKind)}
      </Cell>
      <Cell caption="Effective" className="border-r border-b border-line">
        {effective}
      </Cell>
      <div className="row-span-2 grid place-items-center content-start gap-2 bg-film-2">
        <span className="cap">Rev</span>
        <RevisionMark label={revision.label} mark={revision.mark} size="big" />
      </div>
      <Cell caption="In force now" className="border-r border-line">
        {page.inForce
          ? `${page.inForce.label || 'yes'}, since ${showInstantDay(page.inForce.since, me.organisation.zone)}`
          : 'none'}
      </Cell>
      <Cell caption="Next review date" className="border-r border-line">
        <span className={page.reviewOn && page.reviewOn < me.organisation.today ? 'text-vermilion' : ''}>
          {page.reviewOn ? showDay(page.reviewOn) : '–'}
        </span>
      </Cell>
      <div className="border-r border-line">
        <NotchBar
          state={revision.state}
          words={`${stateWords(revision.state)}${open && round ? `, ${open.n} of ${round.steps.length}` : revision.state === 'draft' ? `, version ${revision.versions}` : ''}`}
        />
      </div>
    </div>
  );
};
