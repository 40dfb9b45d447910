import { api, type DocumentPage } from '@kanonos/contract';
import { showFieldValue } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { documentAddress } from '../../ui/addresses.ts';
import { showDay, showInstant } from '../../ui/format.ts';
import { stateWords } from '../../ui/stateWords.ts';
import { pathOf } from '../filing/paths.ts';
import { CorrectMetadata } from './CorrectMetadata.tsx';
import { forbidsWords } from './sentences.ts';
import { wording } from './wording.ts';

/** The path of a folder, as far as the viewer may see it. */
const FolderName = ({ id }: { id: string }) => {
  const { data } = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const folder = data?.folders.find((one) => one.id === id);
  return <>{folder ? pathOf(folder, data?.folders ?? []) : data ? wording.aFolderYouMayNotSee : '…'}</>;
};

const show = (page: DocumentPage, field: DocumentPage['fields'][number]): React.ReactNode => {
  const value = page.metadata[field.key];
  const named = page.fieldNames[field.key];
  if (named) return named;
  if (field.kind === 'folder' && typeof value === 'string') return <FolderName id={value} />;
  if (field.kind === 'date' && typeof value === 'string') return showDay(value);
  if (field.kind === 'document' && typeof value === 'string')
    return (
      <Link className="link num" to={documentAddress(value)}>
        {value}
      </Link>
    );
  if (field.kind === 'web address' && typeof value === 'string')
    return (
      <a className="link break-all" href={value} target="_blank" rel="noreferrer">
        {value}
      </a>
    );
  return showFieldValue(field, value);
};

/** Metadata of document and revision, which of them are signed, and what changed from the revision before. */
export const MetadataPanel = ({ page }: { page: DocumentPage }) => {
  const me = useMe();
  const [editing, setEditing] = useState(false);
  const row = (name: string, value: React.ReactNode, note = '') => (
    <div key={name} className="grid grid-cols-[112px_minmax(0,1fr)] gap-2 border-b border-line-2 px-3 py-1.5">
      <dt className="text-ink-2">{name}</dt>
      <dd className="min-w-0 break-words">
        {value} {note && <span className="text-[11px] text-ink-3">{note}</span>}
      </dd>
    </div>
  );
  const mayEdit = page.rights.includes('manage') || (page.revision.state === 'draft' && page.rights.includes('author'));
  return (
    <div className="text-[12.5px]">
      <dl>
        {page.fields.map((field) => row(field.label, show(page, field), field.level === 'revision' ? 'signed' : ''))}
        {row(wording.change, stateWords(page.revision.changeKind))}
        {page.revision.reason && row(wording.reason, page.revision.reason, 'signed')}
        {page.revision.summary && row(wording.summary, page.revision.summary, 'signed')}
        {row(
          wording.keywords,
          page.keywords.length
            ? page.keywords.map((word) => (
                <span key={word} className="chip mr-1 !h-5">
                  {word}
                </span>
              ))
            : '–',
        )}
        {row(wording.confidentiality, page.confidentiality, page.forbids.length ? forbidsWords(page.forbids) : '')}
        {Object.entries(page.titles).map(([language, title]) => row(wording.titleLanguage(language), title, 'signed'))}
        {page.parent && row(wording.parent, <Relative one={page.parent} />)}
        {page.children.length > 0 &&
          row(
            wording.children,
            page.children.map((one) => (
              <span key={one.id} className="block">
                <Relative one={one} />
              </span>
            )),
          )}
        {page.shortcuts.length > 0 &&
          row(
            wording.shortcutsIn,
            page.shortcuts.map((one) => <Shortcut key={one.id} page={page} shortcut={one} />),
          )}
        {page.sites.length > 0 && row(wording.sites, page.sites.map((site) => site.name).join(', '))}
        {page.sharing.code && row(wording.statusCodeForSharing, `${page.sharing.code} ${page.sharing.text}`)}
        {page.origin &&
          row(
            wording.source,
            <>
              {page.origin.source || wording.notSet}
              {page.origin.edition && wording.editionEdition(page.origin.edition)}
              <span className="block text-[11.5px] text-ink-3">
                {page.origin.watcher ? wording.watchedBy2(page.origin.watcher.name) : wording.watchedByNobody}
                {page.origin.checkOn && wording.nextCheckOn(showDay(page.origin.checkOn))}
              </span>
            </>,
          )}
        {page.location && row(wording.location, page.location)}
        {row(
          wording.review,
          page.reviewEvery.own !== null
            ? wording.everySetForThisDocument(page.reviewEvery.own, page.reviewEvery.unit)
            : page.reviewEvery.type
              ? wording.every(page.reviewEvery.type, page.reviewEvery.unit)
              : 'none',
        )}
        {row(
          wording.registered,
          wording.registeredAtByRegisteredBy(
            showInstant(page.registeredAt, me.organisation.zone),
            page.registeredBy.name,
          ),
        )}
      </dl>
      {page.change && page.change.metadata.length > 0 && (
        <section className="px-3 py-2">
          <h2 className="cap mb-1">{wording.changedFrom(page.change.from)}</h2>
          {page.change.metadata.map((field) => (
            <p key={field.label}>
              {field.label}: <del className="text-vermilion">{field.before}</del> →{' '}
              <b className="font-semibold">{field.after}</b>
            </p>
          ))}
        </section>
      )}
      {mayEdit && !page.view && (
        <div className="p-3">
          <button type="button" className="btn" onClick={() => setEditing(true)}>
            {wording.correctMetadata}
          </button>
        </div>
      )}
      {editing && <CorrectMetadata page={page} close={() => setEditing(false)} />}
    </div>
  );
};

const Shortcut = ({ page, shortcut }: { page: DocumentPage; shortcut: DocumentPage['shortcuts'][number] }) => {
  const command = useCommand(api.filing.removeShortcut, wording.shortcutRemoved);
  return (
    <span className="flex items-start gap-1">
      <Link className="link min-w-0 flex-1" to={`/register?folder=${shortcut.id}`}>
        {shortcut.path.join(' / ')}
      </Link>
      {shortcut.mayRemove && (
        <button
          type="button"
          className="btn btn-quiet !h-5 !px-1"
          aria-label={wording.removeShortcutIn(shortcut.path.at(-1))}
          disabled={command.isPending}
          onClick={() => command.mutate({ body: { documentId: page.id, folderId: shortcut.id } })}
        >
          {wording.remove}
        </button>
      )}
    </span>
  );
};

/** Another document by number and title. */
const Relative = ({ one }: { one: NonNullable<DocumentPage['parent']> }) => (
  <Link className="link" to={documentAddress(one.number)}>
    <span className="num">{one.number}</span> {one.title}
  </Link>
);
