import { api, type DocumentPage } from '@kanonos/contract';
import { showFieldValue } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { showDay, showInstant } from '../../ui/format.ts';
import { pathOf } from '../filing/paths.ts';
import { CorrectMetadata } from './CorrectMetadata.tsx';
import { forbidsWords, stateWords } from './sentences.ts';

/** Where a folder stands, to whom it is shown. */
const FolderName = ({ id }: { id: string }) => {
  const { data } = useQuery({ ...ask(api.documents.folders), staleTime: 60_000 });
  const folder = data?.folders.find((one) => one.id === id);
  return <>{folder ? pathOf(folder, data?.folders ?? []) : data ? 'a folder you may not see' : '…'}</>;
};

const show = (page: DocumentPage, field: DocumentPage['fields'][number]): React.ReactNode => {
  const value = page.metadata[field.key];
  const named = page.fieldNames[field.key];
  if (named) return named;
  if (field.kind === 'folder' && typeof value === 'string') return <FolderName id={value} />;
  if (field.kind === 'date' && typeof value === 'string') return showDay(value);
  if (field.kind === 'document' && typeof value === 'string')
    return (
      <Link className="link num" to={`/d/${encodeURIComponent(value)}`}>
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
        {row('Change', stateWords(page.revision.changeKind))}
        {page.revision.reason && row('Reason', page.revision.reason, 'signed')}
        {page.revision.summary && row('Summary', page.revision.summary, 'signed')}
        {row(
          'Keywords',
          page.keywords.length
            ? page.keywords.map((word) => (
                <span key={word} className="chip mr-1 !h-5">
                  {word}
                </span>
              ))
            : '–',
        )}
        {row('Confidentiality', page.confidentiality, page.forbids.length ? forbidsWords(page.forbids) : '')}
        {Object.entries(page.titles).map(([language, title]) => row(`Title (${language})`, title, 'signed'))}
        {page.parent && row('Parent', <Relative one={page.parent} />)}
        {page.children.length > 0 &&
          row(
            'Children',
            page.children.map((one) => (
              <span key={one.id} className="block">
                <Relative one={one} />
              </span>
            )),
          )}
        {page.shortcuts.length > 0 &&
          row(
            'Shortcuts in',
            page.shortcuts.map((one) => <Shortcut key={one.id} page={page} shortcut={one} />),
          )}
        {page.sites.length > 0 && row('Sites', page.sites.map((site) => site.name).join(', '))}
        {page.sharing.code && row('Status code for sharing', `${page.sharing.code} ${page.sharing.text}`)}
        {page.origin &&
          row(
            'Source',
            <>
              {page.origin.source || 'not set'}
              {page.origin.edition && `, edition ${page.origin.edition}`}
              <span className="block text-[11.5px] text-ink-3">
                {page.origin.watcher ? `watched by ${page.origin.watcher.name}` : 'watched by nobody'}
                {page.origin.checkOn && `, next check on ${showDay(page.origin.checkOn)}`}
              </span>
            </>,
          )}
        {page.location && row('Location', page.location)}
        {row(
          'Review',
          page.reviewMonths.own !== null
            ? `every ${page.reviewMonths.own} months, set for this document`
            : page.reviewMonths.type
              ? `every ${page.reviewMonths.type} months`
              : 'none',
        )}
        {row('Registered', `${showInstant(page.registeredAt, me.organisation.zone)} by ${page.registeredBy.name}`)}
      </dl>
      {page.change && page.change.metadata.length > 0 && (
        <section className="px-3 py-2">
          <h2 className="cap mb-1">Changed from {page.change.from}</h2>
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
            Correct metadata
          </button>
        </div>
      )}
      {editing && <CorrectMetadata page={page} close={() => setEditing(false)} />}
    </div>
  );
};

const Shortcut = ({ page, shortcut }: { page: DocumentPage; shortcut: DocumentPage['shortcuts'][number] }) => {
  const command = useCommand(api.filing.removeShortcut, 'Shortcut removed.');
  return (
    <span className="flex items-start gap-1">
      <Link className="link min-w-0 flex-1" to={`/register?folder=${shortcut.id}`}>
        {shortcut.path.join(' / ')}
      </Link>
      {shortcut.mayRemove && (
        <button
          type="button"
          className="btn btn-quiet !h-5 !px-1"
          aria-label={`Remove shortcut in ${shortcut.path.at(-1)}`}
          disabled={command.isPending}
          onClick={() => command.mutate({ body: { documentId: page.id, folderId: shortcut.id } })}
        >
          Remove
        </button>
      )}
    </span>
  );
};

/** Another document by number and title. */
const Relative = ({ one }: { one: NonNullable<DocumentPage['parent']> }) => (
  <Link className="link" to={`/d/${encodeURIComponent(one.number)}`}>
    <span className="num">{one.number}</span> {one.title}
  </Link>
);
