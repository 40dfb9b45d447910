import { api, type FileToOpen } from '@kanonos/contract';
import { useEffect } from 'react';
import { addressOf } from '../app/client.ts';
import { wording } from './wording.ts';

/**
 * The files that a signature covers where they are not shown beside it: each opens in a window of its own, and shows whether it was
 * opened. When one comes back to this window, the server is asked again.
 */
export const SignedFiles = ({ files, askAgain }: { files: readonly FileToOpen[]; askAgain: () => void }) => {
  useEffect(() => {
    const look = () => askAgain();
    window.addEventListener('focus', look);
    return () => window.removeEventListener('focus', look);
  }, [askAgain]);
  return (
    <div>
      <p className="cap mb-1">{wording.filesYouSign}</p>
      <ul className="flex flex-col gap-1">
        {files.map((file) => (
          <li key={file.id} className="flex items-baseline justify-between gap-2">
            <a
              className="link min-w-0 truncate"
              href={addressOf(api.documents.file, { file: file.id }, { as: 'open' })}
              target="_blank"
              rel="noreferrer"
              onClick={() => setTimeout(askAgain, 800)}
            >
              {file.name}
            </a>
            <span className={`cap shrink-0 ${file.opened ? '' : '!text-ochre'}`}>
              {file.opened ? wording.opened : wording.notOpened}
            </span>
          </li>
        ))}
      </ul>
      {files.some((file) => !file.opened) && (
        <p className="mt-1 text-[12px] text-ink-2">{wording.openEveryFileBeforeYouSign}</p>
      )}
    </div>
  );
};
