import type { FolderGrant } from '@kanonos/contract';
import { TableHead } from '../../ui/TableHead.tsx';
import { wording } from './wording.ts';

const grantInWords = (grant: FolderGrant): string =>
  grant.withheld ? wording.allAccessWithheld : grant.rights.join(', ') || wording.nothing;

/** Who has which rights in a place: entries of its own, then those of the folders above, of which the nearest one counts. */
export const GrantList = ({
  own,
  above,
  place,
}: {
  own: readonly FolderGrant[];
  above: readonly { folder: string; grants: readonly FolderGrant[] }[];
  /** How the place itself is named in the list. */
  place: string;
}) => {
  const line = (grant: FolderGrant, from: string) => (
    <tr key={`${from} ${grant.subject.kind} ${grant.subject.id}`} className="border-t border-line-2 align-top">
      <td className="px-3 py-1">{grant.subject.name}</td>
      <td className={`py-1 pr-2 ${grant.withheld ? 'text-vermilion' : ''}`}>{grantInWords(grant)}</td>
      <td className="py-1 pr-2 text-ink-3">{from}</td>
    </tr>
  );
  return (
    <table className="w-full border border-line bg-sheet">
      <TableHead headings={[wording.who, wording.rights, wording.setOn]} cell="px-3 py-1" />
      <tbody>
        {own.map((grant) => line(grant, place))}
        {above.flatMap(({ folder, grants }) => grants.map((grant) => line(grant, folder)))}
        {own.length === 0 && above.length === 0 && (
          <tr>
            <td colSpan={3} className="px-3 py-2 text-ink-3">
              {wording.nobodyHasRightsHere}
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
};
