import { api, type LinkInfo } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { X } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useCommand } from '../../app/useCommand.ts';
import { HoldWords } from '../../ui/marks.tsx';
import { Refusals } from '../../ui/states.tsx';
import { AddLink } from './AddLink.tsx';
import { wording } from './wording.ts';

/** How a link reads from its other end. */
const BACK: Record<LinkInfo['kind'], string> = {
  'refers to': wording.referredToBy,
  'form of': wording.hasTheForm,
  'translation of': wording.translatedAs,
  'attachment of': wording.hasTheAttachment,
};

/** Links that people set, from this document and to it. */
export const LinksSection = ({ number }: { number: string }) => {
  const [adding, setAdding] = useState(false);
  const { data } = useQuery(ask(api.links.list, { params: { document: number } }));
  const end = useCommand(api.links.end, wording.linkRemoved);
  if (!data) return null;
  const none = data.from.length + data.to.length === 0;
  return (
    <section aria-label={wording.links} className="mb-3">
      <div className="flex items-baseline gap-2 border-b border-line pb-1">
        <h2>{wording.links}</h2>
        <span className="text-ink-3">{none ? wording.noneYet : wording.setByPeople}</span>
        {data.mayChange && (
          <button type="button" className="btn ml-auto !h-6" onClick={() => setAdding(true)}>
            {wording.addLink}
          </button>
        )}
      </div>
      <ul>
        {data.from.map((link) => (
          <Line key={link.id} link={link} words={link.kind}>
            {data.mayChange && (
              <button
                type="button"
                aria-label={wording.removeTheLinkTo(link.document?.number ?? link.item?.code ?? link.address)}
                className="btn btn-quiet !h-6 !px-1"
                onClick={() => end.mutate({ params: { document: number, id: link.id } })}
              >
                <X size={13} aria-hidden />
              </button>
            )}
          </Line>
        ))}
        {data.to.map((link) => (
          <Line key={link.id} link={link} words={BACK[link.kind]} />
        ))}
      </ul>
      <Refusals error={end.error} />
      {adding && <AddLink number={number} itemKinds={data.itemKinds} close={() => setAdding(false)} />}
    </section>
  );
};

const Line = ({ link, words, children }: { link: LinkInfo; words: string; children?: React.ReactNode }) => (
  <li className="grid grid-cols-[120px_minmax(0,1fr)_auto] items-baseline gap-2 border-b border-line-2 py-1 text-[12.5px] last:border-0">
    <span className="text-ink-3">{words}</span>
    <span className="min-w-0">
      {link.document && (
        <>
          <Link
            className="num mr-2 hover:underline"
            to={`/d/${encodeURIComponent(link.document.number)}?tab=citations`}
          >
            {link.document.number}
            {link.pinned && ` ${link.document.label}`}
          </Link>
          <b className="font-semibold">{link.document.title}</b>
          <HoldWords when={link.document.onHold} />
          {link.pinned && (
            <span className={`ml-2 text-[11.5px] ${link.outdated ? 'text-vermilion' : 'text-ink-3'}`}>
              {link.outdated ? wording.pinnedToARevisionThatIs : 'pinned'}
            </span>
          )}
        </>
      )}
      {link.address && (
        <a className="link break-all" href={link.address} target="_blank" rel="noreferrer noopener">
          {link.address}
        </a>
      )}
      {link.item && (
        <>
          <span className="cap mr-1.5">{link.item.kind}</span>
          <Link
            className="num mr-2 hover:underline"
            to={`/items/${encodeURIComponent(link.item.kind)}/${encodeURIComponent(link.item.code)}`}
          >
            {link.item.code}
          </Link>
          {link.item.name}
        </>
      )}
      {link.note && <span className="block text-[11.5px] text-ink-3">{link.note}</span>}
    </span>
    {children}
  </li>
);
