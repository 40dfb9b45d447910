import type { AnswerOf, api } from '@kanonos/contract';
import { Link } from 'react-router';
import { documentAddress } from '../../ui/addresses.ts';
import { count } from '../../ui/format.ts';
import { wording } from './wording.ts';

/** The result of a command over many documents: how many were done, and each that was not with its reasons. */
export const EachResult = ({
  result,
  did,
}: {
  result: AnswerOf<typeof api.bulk.submit>;
  /** "is sent", "are sent". */
  did: readonly [one: string, many: string];
}) => (
  <div className="max-h-[46vh] overflow-y-auto" aria-live="polite">
    <p className="mb-1">
      {count(result.done.length, wording.documentPart(did[0]), wording.documentsPart(did[1]))}
      {result.refused.length > 0 &&
        `, ${count(result.refused.length, wording.wasLeftUnchanged, wording.wereLeftUnchanged)}`}
      .
    </p>
    <ul className="border border-line-2">
      {result.done
        .filter((one) => one.made)
        .map((one) => (
          <li key={one.id} className="border-b border-line-2 px-2 py-0.5 last:border-0">
            <span className="num">{one.number}</span> →{' '}
            <Link className="link num" to={documentAddress(one.made ?? '')}>
              {one.made}
            </Link>
          </li>
        ))}
      {result.refused.map((one) => (
        <li
          key={one.id}
          className="grid grid-cols-[128px_minmax(0,1fr)] gap-2 border-b border-line-2 px-2 py-0.5 last:border-0"
        >
          <span className="num">{one.number || wording.notVisible}</span>
          <span className="text-vermilion">{one.reasons.join(' ')}</span>
        </li>
      ))}
    </ul>
  </div>
);
