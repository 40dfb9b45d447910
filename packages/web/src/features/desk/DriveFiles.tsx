import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { showInstantDay, showSize } from '../../ui/format.ts';
import { wording } from './wording.ts';

/** Files that I saved in folders by a desk program and that could not become documents by themselves: the missing facts are entered here. */
export const DriveFiles = () => {
  const { zone } = useMe().organisation;
  const { data } = useQuery(ask(api.programs.driveFiles));
  if (!data?.files.length) return null;
  return (
    <section aria-label={wording.savedOnTheNetworkDrive} className="mb-4">
      <h2 className="px-0.5 pb-1.5">{wording.savedOnTheNetworkDriveNot}</h2>
      <ul className="border border-line bg-sheet">
        {data.files.map((file) => (
          <li key={file.id} className="flex items-center gap-3 border-b border-line-2 px-3 py-1.5 last:border-0">
            <span className="min-w-0 flex-1">
              <b className="font-semibold">{file.name}</b>
              <span className="text-ink-3">
                {' '}
                {wording.inPathSizeChangedAt(
                  file.folder.path,
                  showSize(file.size),
                  showInstantDay(file.changedAt, zone),
                )}
              </span>
              <span className="block text-[12px] text-ochre">{file.why}</span>
            </span>
            <Link className="btn !h-6" to={`/new?desk=${file.id}&folder=${file.folder.id}`}>
              {wording.register}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
};
