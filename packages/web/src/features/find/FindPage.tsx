import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link, useSearchParams } from 'react-router';
import { ask } from '../../app/client.ts';
import { documentAddress, revisionAddress } from '../../ui/addresses.ts';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { count } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { HoldWords, RevisionMark } from '../../ui/marks.tsx';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { stateWords } from '../../ui/stateWords.ts';
import { HoverPicture } from '../viewer/HoverPicture.tsx';
import { wording } from './wording.ts';

/** Passages come with their hits between marks; they become elements, never HTML. */
const marked = (passage: string) => {
  const parts = passage.split(/⟦|⟧/).map((text, place) => ({ text, place }));
  return parts.map(({ text, place }) => (place % 2 ? <mark key={place}>{text}</mark> : text));
};

/** The hits, best first, each with its passage. */
export const FindPage = () => {
  const [params] = useSearchParams();
  const q = params.get('q') ?? '';
  const { data, error, isPending, refetch } = useQuery({
    ...ask(api.find.find, { query: { q, limit: 40 } }),
    enabled: q !== '',
  });
  if (q === '') return <Empty title={wording.nothingToSearchForYet}>{wording.typeANumberOrWordsInto}</Empty>;
  if (isPending) return <Loading what={wording.theSearchResults} />;
  // A phrase brings its quotation marks along.
  const quoted = q.includes('"') ? q : `“${q}”`;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  return (
    <Page
      title={
        data.goTo
          ? wording.oneDocumentHasThisNumber
          : data.hits.length
            ? wording.documentsWithAsked(count(data.hits.length, 'document'), quoted)
            : wording.nothingWith(quoted)
      }
      about={data.capped ? wording.onlyTheBestMatchesAreShown : wording.searchedInNumbersTitlesMetadataAnd}
      actions={
        <>
          <ExportMenu
            disabled={data.hits.length === 0}
            list={listOf(wording.searchResults, data.hits, [
              [headings.number, (hit) => hit.number],
              [headings.revision, (hit) => hit.label],
              [headings.title, (hit) => hit.title],
              [headings.state, (hit) => stateWords(hit.state)],
              [headings.passage, (hit) => hit.passage.replace(/[⟦⟧]/g, '')],
            ])}
          />
          <Link className="btn" to={`/register?q=${encodeURIComponent(q)}`}>
            {wording.filterInTheRegister}
          </Link>
        </>
      }
    >
      {data.goTo && (
        <Link className="btn btn-pri" to={documentAddress(data.goTo)}>
          {wording.openGoTo(data.goTo)}
        </Link>
      )}
      {!data.goTo && data.hits.length === 0 && (
        <Empty title={wording.tryFewerOrOtherWords}>{wording.allWordsMustOccurPutExact}</Empty>
      )}
      <ul>
        {data.hits.map((hit) => (
          <li
            key={hit.documentId}
            className="grid grid-cols-[38px_minmax(0,1fr)_110px] items-start gap-3 border-b border-line-2 bg-sheet px-3 py-2.5"
          >
            <RevisionMark label={hit.label} mark={hit.mark} />
            <span className="min-w-0">
              <HoverPicture document={hit.documentId} name={hit.number}>
                <Link to={revisionAddress(hit.number, hit)} className="hover:underline">
                  <span className="num mr-2">{hit.number}</span>
                  <b className="font-semibold">{hit.title}</b>
                  <HoldWords when={hit.mark === 'on hold'} />
                </Link>
              </HoverPicture>
              {hit.passage && <span className="block text-[12.5px] text-ink-2">{marked(hit.passage)}</span>}
            </span>
            <span className="text-right text-[12px] text-ink-3">
              {stateWords(hit.state)}
              <span className="block">{wording.inWhere(hit.where)}</span>
            </span>
          </li>
        ))}
      </ul>
    </Page>
  );
};
