import type { Difference } from '@kanonos/contract';
import { wording } from './wording.ts';
import { differenceWords } from './words.ts';

/** Differences place by place: the old struck through, the new in bold. */
export const Differences = ({ differences }: { differences: readonly Difference[] }) => (
  <ul className="flex flex-col gap-1">
    {differences.map((difference) => {
      const { where, before, after } = differenceWords(difference);
      return (
        <li key={`${difference.what} ${after}`} className="break-words">
          <span className="text-ink-2">{where}:</span> {before && <del className="text-vermilion">{before}</del>}
          {before && after && ' → '}
          {after && <b className="font-semibold">{after}</b>}
          {!before && !after && <span className="text-ink-3">{wording.cleared}</span>}
        </li>
      );
    })}
  </ul>
);
