import type { RuleStart } from '@kanonos/contract';
import { Link } from 'react-router';
import { documentAddress } from '../../ui/addresses.ts';
import { showDay, showInstant } from '../../ui/format.ts';
import { wording } from './wording.ts';

/** What a rule started or would have started, and what stood against it. */
export const RuleStarts = ({ starts, empty }: { starts: readonly RuleStart[]; empty: string }) =>
  starts.length === 0 ? (
    <p className="text-ink-2">{empty}</p>
  ) : (
    <ul className="border border-line">
      {starts.map((start, at) => (
        <li
          // biome-ignore lint/suspicious/noArrayIndexKey: one document has several occasions, and the list is only read
          key={at}
          className="flex flex-wrap items-baseline gap-x-3 gap-y-0.5 border-b border-line-2 px-2.5 py-1.5 last:border-0"
        >
          <span className="num w-32 text-[12px] text-ink-2">
            {start.at ? showInstant(start.at) : start.day ? showDay(start.day) : ''}
          </span>
          <Link className="link num" to={documentAddress(start.number)}>
            {start.number}
          </Link>
          <span className="min-w-0 flex-1 truncate max-md:basis-full">{start.title}</span>
          {start.problem === null ? (
            <span className="text-ink-2">{wording.asks(start.asks.join(', '))}</span>
          ) : (
            <span className="text-vermilion">
              {wording.notStarted} {start.problem}
            </span>
          )}
        </li>
      ))}
    </ul>
  );
