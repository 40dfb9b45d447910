import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { workAddress } from '../../ui/addresses.ts';
import { HoldWords, RevisionMark } from '../../ui/marks.tsx';

type Shown = {
  label: string;
  mark: 'in force' | 'on hold' | 'old' | 'open';
  title: string;
  document: { number: string };
};

/** The line above the text of a task: which revision it is, what is known of it, and what else can be shown. */
export const TaskHead = ({
  task,
  about,
  more,
  children,
}: {
  task: Shown;
  about: string;
  more: string;
  children?: ReactNode;
}) => (
  <div className="flex items-center gap-3 border-b border-line bg-film-2 px-3.5 py-2 whitespace-nowrap max-md:flex-wrap">
    <RevisionMark label={task.label} mark={task.mark} />
    <span className="min-w-0 leading-snug">
      <Link to={workAddress(task.document.number)} className="num block hover:underline">
        {task.document.number}
      </Link>
      <b className="block truncate font-semibold max-md:whitespace-normal">{task.title}</b>
      <HoldWords when={task.mark === 'on hold'} />
    </span>
    <span className="border-l border-line pl-3 text-ink-2 max-md:w-full max-md:border-0 max-md:pl-0 max-md:whitespace-normal">
      {about}
      <span className="block">{more}</span>
    </span>
    {children}
  </div>
);

/** A captioned part of the column beside the text. */
export const Block = ({ caption, children }: { caption: string; children: ReactNode }) => (
  <section className="border-b border-line-2 px-3.5 py-2.5">
    <h2 className="cap mb-1">{caption}</h2>
    {children}
  </section>
);
