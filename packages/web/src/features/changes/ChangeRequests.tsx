import { api, type ChangeRequest } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { addressOf, ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { documentAddress } from '../../ui/addresses.ts';
import { showInstantDay } from '../../ui/format.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { AnswerDialog } from './AnswerDialog.tsx';
import { wording } from './wording.ts';

/** What became of a request, in a few words. */
const becameInWords = (request: ChangeRequest): string => {
  if (request.state === 'open') return wording.openRequests;
  if (request.state === 'rejected') return wording.rejectedBy(request.answeredBy ?? '');
  return request.state === 'merged' ? wording.mergedInto(request.into ?? '') : wording.partOf(request.into ?? '');
};

/** What readers suggest: sent by oneself, and to be answered by oneself; the open ones first. */
export const ChangeRequests = () => {
  const { data, error, isPending, refetch } = useQuery(ask(api.changeRequests.list));
  const [asked, setAsked] = useState<ChangeRequest | null>(null);
  if (isPending) return <Loading what={wording.theRequests} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  if (data.requests.length === 0) return <Empty title={wording.noRequests}>{wording.howToSuggest}</Empty>;
  return (
    <>
      <ul className="border border-line bg-sheet">
        {data.requests.map((request) => (
          <Row key={request.id} request={request} answer={() => setAsked(request)} />
        ))}
      </ul>
      {asked && <AnswerDialog request={asked} all={data.requests} close={() => setAsked(null)} />}
    </>
  );
};

const Row = ({ request, answer }: { request: ChangeRequest; answer: () => void }) => {
  const { zone } = useMe().organisation;
  return (
    <li className="grid grid-cols-[220px_minmax(0,1fr)_190px] items-start gap-x-4 gap-y-1.5 border-b border-line-2 px-3 py-2.5 last:border-0 max-md:grid-cols-1">
      <span>
        <span className="num text-ink-3">{request.number}</span>
        <Link to={documentAddress(request.document.number)} className="block hover:underline">
          <span className="num block">{request.document.number}</span>
          <b className="font-semibold">{request.document.title}</b>
        </Link>
      </span>
      <span>
        {request.place && <b className="font-semibold">{request.place}. </b>}
        {request.what}
        {request.proposal && <span className="block text-ink-2">{wording.shouldSay(request.proposal)}</span>}
        {request.fileName && (
          <a className="link block text-[12.5px]" href={addressOf(api.changeRequests.file, { id: request.id })}>
            {request.fileName}
          </a>
        )}
        {request.record && (
          <Link className="link block text-[12.5px]" to={`/records/${request.record}`}>
            {wording.wholeForm}
          </Link>
        )}
        <span className="block text-[12px] text-ink-3">
          {wording.suggestedBy(request.by.name, showInstantDay(request.at, zone), request.label)}
        </span>
      </span>
      <span className="flex flex-wrap items-center justify-end gap-2 max-md:justify-start">
        <span className={`text-[12.5px] ${request.state === 'open' ? 'text-ochre' : 'text-ink-2'}`}>
          {becameInWords(request)}
          {request.answer && <span className="block text-ink-3">“{request.answer}”</span>}
        </span>
        {request.mayAnswer && (
          <button type="button" className="btn" aria-label={wording.answerNumber(request.number)} onClick={answer}>
            {wording.answer}
          </button>
        )}
      </span>
    </li>
  );
};
