import { api, type RoundInfo } from '@kanonos/contract';
import { Link } from 'react-router';
import { addressOf } from '../../../app/client.ts';
import { documentAddress } from '../../../ui/addresses.ts';
import { wording } from './wording.ts';

/** The documents and files that are attached to an ad hoc round. */
export const BesideRound = ({ round }: { round: Pick<RoundInfo, 'documents' | 'files'> }) =>
  round.documents.length + round.files.length === 0 ? null : (
    <ul aria-label={wording.besideTheRound} className="flex flex-wrap gap-x-3">
      {round.documents.map(({ id, number }) => (
        <li key={id}>
          <Link className="link num inline-block min-h-6" to={documentAddress(number)}>
            {number}
          </Link>
        </li>
      ))}
      {round.files.map(({ id, name }) => (
        <li key={id}>
          <a className="link inline-block min-h-6" href={addressOf(api.adHocRounds.file, { id })}>
            {name}
          </a>
        </li>
      ))}
    </ul>
  );
