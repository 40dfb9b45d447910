import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { api, type DocumentPage } from '@kanonos/contract';
import { comparedInWords } from '@kanonos/core';
import { Ellipsis } from 'lucide-react';
import { useState } from 'react';
import { Link, useNavigate, useSearchParams } from 'react-router';
import { addressOf } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { ExportMenu } from '../../ui/ExportMenu.tsx';
import { FormDialog } from '../../ui/FormDialog.tsx';
import { fingerprint, showInstant, showSize } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { Refusals } from '../../ui/states.tsx';
import { TabPanel } from '../../ui/TabPanel.tsx';
import { saidOf } from './originals.ts';
import { wording } from './wording.ts';

type Version = DocumentPage['versions'][number];

const changeWords = ({ metadata, ...counts }: NonNullable<DocumentPage['versions'][number]['change']>): string =>
  comparedInWords(counts, metadata) || wording.theSameText;

/** Compared with the version before it; the first of a revision with what the revision follows, which the page finds. */
const compareAddress = (page: DocumentPage, version: string, before: string | undefined): string =>
  `/d/${encodeURIComponent(page.number)}/compare?${new URLSearchParams(before ? { old: before, new: version } : { new: version })}`;

/**
 * The versions of the revision in view: who, when, note, size, hash. A row opens its version; two that are ticked are compared; what else
 * can be done with one is in its menu.
 */
export const VersionsPanel = ({ page }: { page: DocumentPage }) => {
  const me = useMe();
  const navigate = useNavigate();
  const [ticked, setTicked] = useState<readonly string[]>([]);
  const [removing, setRemoving] = useState<Version | null>(null);
  const command = useCommand(api.documents.makeNewest, ({ version }) => wording.versionIsNowTheNewest(version));
  const [, setParams] = useSearchParams();
  const open = (version: Version) =>
    setParams(
      (before) =>
        new URLSearchParams([...[...before].filter(([k]) => k !== 'tab' && k !== 'v'), ['v', String(version.n)]]),
    );
  // A third one takes the place of the one that was ticked first.
  const tick = (id: string, on: boolean) =>
    setTicked((before) => (on ? [...before, id].slice(-2) : before.filter((one) => one !== id)));
  const [newer, older] = page.versions.filter((version) => ticked.includes(version.id));
  return (
    <TabPanel label={wording.versions}>
      <Refusals error={command.error} />
      <div className="flex items-center gap-3 border-b border-line bg-film-2 px-3 py-1.5 text-[12px] text-ink-2">
        <span className="min-w-0 flex-1">
          {page.versions.length < 2 || (newer && older) ? '' : wording.tickTwoVersionsToCompareThem}
        </span>
        <ExportMenu list={versionList(page, me.organisation.zone)} />
        {page.versions.length > 1 && (
          <button
            type="button"
            className="btn !h-6"
            disabled={!newer || !older}
            onClick={() => newer && older && navigate(compareAddress(page, newer.id, older.id))}
          >
            {newer && older ? wording.compareVersions(older.n, newer.n) : wording.compare}
          </button>
        )}
      </div>
      <table className="w-full text-[12.5px]">
        <thead>
          <tr className="border-b border-line text-left">
            {['', wording.version, wording.note, wording.by, wording.file, ''].map((head, i) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: a heading is its place
              <th key={i} className="cap px-3 py-1.5 first:pr-0">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {page.versions.map((version, i) => (
            <tr
              key={version.id}
              className="cursor-pointer border-b border-line-2 align-top hover:bg-film-2"
              onClick={(event) => {
                if (!(event.target as Element).closest('button, a, input, label')) open(version);
              }}
            >
              <td className="py-1.5 pl-3">
                {page.versions.length > 1 && (
                  <label className="grid size-6 place-items-center">
                    <input
                      type="checkbox"
                      className="accent-petrol"
                      aria-label={wording.tickVersion(version.shown)}
                      checked={ticked.includes(version.id)}
                      onChange={(event) => tick(version.id, event.target.checked)}
                    />
                  </label>
                )}
              </td>
              <td className="px-3 py-1.5">
                <button
                  type="button"
                  className="link num min-h-6 min-w-6 text-left !text-[13px]"
                  aria-label={wording.openVersion(version.shown)}
                  onClick={() => open(version)}
                >
                  {version.shown}
                </button>
              </td>
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
                <VersionFiles page={page} version={version} />
              </td>
              <td className="px-2 py-1.5 text-right">
                <VersionMenu
                  page={page}
                  at={i}
                  open={() => open(version)}
                  busy={command.isPending}
                  makeNewest={() =>
                    command.mutate({
                      params: { document: page.id, version: version.id },
                      body: { seen: page.stateTag },
                    })
                  }
                  remove={() => setRemoving(version)}
                />
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
            removed.freed > 0 ? wording.freedFreed(showSize(removed.freed)) : '',
          )}
        </p>
      ))}
      {removing && <RemoveVersion page={page} version={removing} close={() => setRemoving(null)} />}
      {page.supportingFiles.length > 0 && <SupportingFiles me={me} page={page} />}
    </TabPanel>
  );
};

/** The versions as a list, a row for each file. */
const versionList = (page: DocumentPage, zone: string) => ({
  name: `${page.number} ${page.revision.label} ${wording.versions}`,
  headings: [wording.version, wording.note, wording.by, headings.at, wording.file, headings.bytes, 'SHA-256'],
  rows: () =>
    page.versions.flatMap((version) =>
      version.files.map((file) => [
        version.shown,
        version.note,
        version.by.name,
        showInstant(version.at, zone),
        file.name,
        file.size,
        file.sha256,
      ]),
    ),
});

/** The files of a version with their fingerprints, by which the exact bytes are fetched. */
const VersionFiles = ({ page, version }: { page: DocumentPage; version: Version }) =>
  version.files.map((file) => (
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
  ));

/** What can be done with one version, in a menu at the end of its row. */
const VersionMenu = ({
  page,
  at,
  open,
  busy,
  makeNewest,
  remove,
}: {
  page: DocumentPage;
  /** Which of the versions, counted from the newest. */
  at: number;
  open: () => void;
  busy: boolean;
  makeNewest: () => void;
  remove: () => void;
}) => {
  const version = page.versions[at] as Version;
  const before = page.versions[at + 1];
  const mayRestore =
    page.revision.state === 'draft' &&
    page.commands.find((a) => a.command === 'correct metadata')?.refusals.length === 0;
  const entry = 'block w-full px-3 py-1.5 text-left data-focus:bg-petrol-tint';
  return (
    <Menu>
      <MenuButton className="btn !h-6 !px-1.5" aria-label={wording.actionsOfVersion(version.shown)}>
        <Ellipsis size={15} aria-hidden />
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        className="z-40 w-60 border border-ink bg-sheet py-1 text-left text-[12.5px] shadow-md outline-none [--anchor-gap:4px]"
      >
        <MenuItem>
          <button type="button" className={entry} onClick={open}>
            {wording.open}
          </button>
        </MenuItem>
        {(before || page.revisions.length > 1) && (
          <MenuItem>
            <Link className={entry} to={compareAddress(page, version.id, before?.id)}>
              {before ? wording.compareWithVersion(before.n) : wording.compareWithTheRevisionBefore}
            </Link>
          </MenuItem>
        )}
        {version.files[0] && page.rights.includes('download') && (
          <MenuItem>
            <a
              className={entry}
              href={addressOf(api.documents.file, { file: version.files[0].id }, { as: 'download' })}
            >
              {wording.download}
            </a>
          </MenuItem>
        )}
        {at > 0 && mayRestore && (
          <MenuItem>
            <button type="button" className={entry} disabled={busy} onClick={makeNewest}>
              {wording.makeNewest}
            </button>
          </MenuItem>
        )}
        {at > 0 && page.rights.includes('manage') && (
          <MenuItem>
            <button type="button" className={`${entry} text-vermilion`} onClick={remove}>
              {wording.removeVersion}
            </button>
          </MenuItem>
        )}
      </MenuItems>
    </Menu>
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

/** Removes an older version with a reason; the freed space is shown. */
const RemoveVersion = ({ page, version, close }: { page: DocumentPage; version: Version; close: () => void }) => {
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
