import { api, type DocumentPage } from '@kanonos/contract';
import { comparedInWords } from '@kanonos/core';
import { useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { addressOf } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';

import { FormDialog } from '../../ui/FormDialog.tsx';
import { fingerprint, showInstant, showSize } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Refusals } from '../../ui/states.tsx';
import { saidOf } from './originals.ts';
import { wording } from './wording.ts';

const changeWords = ({ metadata, ...counts }: NonNullable<DocumentPage['versions'][number]['change']>): string =>
  comparedInWords(counts, metadata) || wording.theSameText;

/** Compared with the version before it; the first of a revision with what the revision follows, which the page finds. */
const compareAddress = (page: DocumentPage, version: string, before: string | undefined): string =>
  `/d/${encodeURIComponent(page.number)}/compare?${new URLSearchParams(before ? { old: before, new: version } : { new: version })}`;

/** The versions of the revision in view: who, when, note, size, hash; opened, downloaded, or made the newest. */
export const VersionsPanel = ({ page }: { page: DocumentPage }) => {
  const me = useMe();
  const [, setParams] = useSearchParams();
  const [removing, setRemoving] = useState<DocumentPage['versions'][number] | null>(null);
  const command = useCommand(api.documents.makeNewest, ({ version }) => wording.versionIsNowTheNewest(version));
  const mayRestore =
    page.revision.state === 'draft' &&
    page.commands.find((a) => a.command === 'correct metadata')?.refusals.length === 0;
  return (
    <div role="tabpanel" tabIndex={0} aria-label={wording.versions} className="min-h-0 flex-1 overflow-y-auto">
      <Refusals error={command.error} />
      <table className="w-full text-[12.5px]">
        <thead>
          <tr className="border-b border-line text-left">
            {[wording.version, wording.note, wording.by, wording.file, ''].map((head) => (
              <th key={head} className="cap px-3 py-1.5">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {page.versions.map((version, i) => (
            <tr key={version.id} className="border-b border-line-2 align-top">
              <td className="num px-3 py-2 !text-[13px]">{version.shown}</td>
              <td className="px-3 py-2">
                {version.note || '–'}
                {version.change && (
                  <span className="block text-[11.5px] text-ink-3">{changeWords(version.change)}</span>
                )}
              </td>
              <td className="px-3 py-2 whitespace-nowrap">
                {version.by.name}
                <span className="block text-[11.5px] text-ink-3">{showInstant(version.at, me.organisation.zone)}</span>
              </td>
              <td className="px-3 py-2">
                {version.files.map((file) => (
                  <span key={file.id} className="block">
                    {file.name}, {showSize(file.size)}
                    {saidOf(file, version.files) && <span className="text-ink-2">, {saidOf(file, version.files)}</span>}
                    {page.rights.includes('download') ? (
                      <a
                        className="num block text-ink-3 hover:underline"
                        title={wording.theFileAsCheckedInWithout(file.sha256)}
                        href={addressOf(api.documents.file, { file: file.id }, { as: 'exact' })}
                      >
                        {fingerprint(file.sha256)}
                      </a>
                    ) : (
                      <span className="num block text-ink-3" title={file.sha256}>
                        {fingerprint(file.sha256)}
                      </span>
                    )}
                  </span>
                ))}
              </td>
              <td className="px-3 py-2">
                <div className="ml-auto flex w-[186px] flex-wrap justify-end gap-1">
                  <button
                    type="button"
                    className="btn !h-6"
                    onClick={() =>
                      setParams(
                        (before) =>
                          new URLSearchParams([
                            ...[...before].filter(([k]) => k !== 'tab' && k !== 'v'),
                            ['v', String(version.n)],
                          ]),
                      )
                    }
                  >
                    {wording.open}
                  </button>
                  {(i < page.versions.length - 1 || page.revisions.length > 1) && (
                    <Link className="btn !h-6" to={compareAddress(page, version.id, page.versions[i + 1]?.id)}>
                      {wording.compare}
                    </Link>
                  )}
                  {version.files[0] && page.rights.includes('download') && (
                    <a
                      className="btn !h-6"
                      href={addressOf(api.documents.file, { file: version.files[0].id }, { as: 'download' })}
                    >
                      {wording.download}
                    </a>
                  )}
                  {i > 0 && mayRestore && (
                    <button
                      type="button"
                      className="btn !h-6"
                      disabled={command.isPending}
                      onClick={() =>
                        command.mutate({
                          params: { document: page.id, version: version.id },
                          body: { seen: page.stateTag },
                        })
                      }
                    >
                      {wording.makeNewest}
                    </button>
                  )}
                  {i > 0 && page.rights.includes('manage') && (
                    <button type="button" className="btn btn-quiet !h-6" onClick={() => setRemoving(version)}>
                      {wording.remove}
                    </button>
                  )}
                </div>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {page.removedVersions.map((removed) => (
        <p key={removed.n} className="border-b border-line-2 px-3 py-1.5 text-[12px] text-ink-3">
          {wording.versionWasRemovedByItsHashes(
            removed.n,
            removed.by,
            showInstant(removed.at, me.organisation.zone),
            removed.reason,
            removed.freed > 0 ? `${showSize(removed.freed)} freed; ` : '',
          )}
        </p>
      ))}
      {removing && <RemoveVersion page={page} version={removing} close={() => setRemoving(null)} />}
      {page.supportingFiles.length > 0 && <SupportingFiles me={me} page={page} />}
    </div>
  );
};

/** Files kept beside the versions. */
const SupportingFiles = ({ me, page }: { me: ReturnType<typeof useMe>; page: DocumentPage }) => (
  <section aria-label={wording.supportingFile} className="px-3 py-3">
    <h2 className="cap mb-1">{wording.supportingFileNeverTheCurrentOne}</h2>
    <ul>
      {page.supportingFiles.map((supportingFile) => (
        <li
          key={supportingFile.id}
          className="flex items-start gap-3 border-b border-line-2 py-1.5 text-[12.5px] last:border-0"
        >
          <span className="min-w-0 flex-1">
            {supportingFile.name}, {showSize(supportingFile.size)}
            <span className="block text-ink-2">{supportingFile.note}</span>
            <span className="block text-[11.5px] text-ink-3">
              {supportingFile.by}, {showInstant(supportingFile.at, me.organisation.zone)},{' '}
              <span className="num" title={supportingFile.sha256}>
                {fingerprint(supportingFile.sha256)}
              </span>
            </span>
          </span>
          {page.rights.includes('download') && (
            <a className="btn !h-6" href={addressOf(api.programs.supportingFile, { id: supportingFile.id })}>
              {wording.download}
            </a>
          )}
        </li>
      ))}
    </ul>
  </section>
);

/** Removes an older version with a reason; how much room that won is told. */
const RemoveVersion = ({
  page,
  version,
  close,
}: {
  page: DocumentPage;
  version: DocumentPage['versions'][number];
  close: () => void;
}) => {
  const [reason, setReason] = useState('');
  const command = useCommand(
    api.documents.removeVersion,
    ({ freed }) => (freed ? wording.removedWon(showSize(freed)) : wording.removedItsContentIsStillUsed),
    close,
  );
  return (
    <FormDialog
      title={wording.removeVersionOf(version.shown, page.number)}
      about={<p>{wording.theFileIsDeletedUnlessIt}</p>}
      command={command}
      button={wording.removeVersion}
      danger
      onSubmit={() => command.mutate({ params: { document: page.id, version: version.id }, body: { reason } })}
      onClose={close}
    >
      <ReasonField value={reason} onChange={setReason} />
    </FormDialog>
  );
};
