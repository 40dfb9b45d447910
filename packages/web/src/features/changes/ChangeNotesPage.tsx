import { api, type ChangeNoteRow } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { changeAddress } from '../../ui/addresses.ts';
import { Segments } from '../../ui/controls.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { showDay, showInstantDay } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { Page } from '../../ui/Page.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { useInAddress } from '../../ui/useInAddress.ts';
import { OrderDocumentDialog } from '../orders/GiveOrderDialog.tsx';
import { OrderList } from '../orders/OrderList.tsx';
import { wording as orders } from '../orders/wording.ts';
import { ChangeRequests } from './ChangeRequests.tsx';
import { wording } from './wording.ts';

/** What changes: the notes, with how far they are, and what readers suggest. */
export const ChangeNotesPage = () => {
  const [show, setShow] = useInAddress('show');
  const me = useMe();
  const [isOrdering, setOrdering] = useState(false);
  const isRequests = show === 'requests';
  const segments = (
    <Segments
      label={wording.show}
      value={show}
      onChange={setShow}
      options={[
        { value: '', text: wording.openNotes },
        { value: 'all', text: wording.allNotes },
        { value: 'requests', text: wording.requests },
        { value: 'orders', text: orders.orders },
      ]}
    />
  );
  if (show === 'orders')
    return (
      <Page
        title={orders.orders}
        about={orders.about}
        actions={
          <>
            {segments}
            {me.overseesRounds && (
              <button type="button" className="btn btn-pri" onClick={() => setOrdering(true)}>
                {orders.orderDocument}
              </button>
            )}
          </>
        }
      >
        <OrderList />
        {isOrdering && <OrderDocumentDialog close={() => setOrdering(false)} />}
      </Page>
    );
  return isRequests ? (
    <Page title={wording.changeRequests} about={wording.aboutRequests} actions={segments}>
      <ChangeRequests />
    </Page>
  ) : (
    <Notes all={show === 'all'} segments={segments} />
  );
};

/** Change notes: how far their documents and tasks are, and what is due next. */
const Notes = ({ all, segments }: { all: boolean; segments: ReactNode }) => {
  const { organisation } = useMe();
  const { data, error, isPending, refetch } = useQuery(ask(api.changes.list));
  if (isPending) return <Loading what={wording.theChangeNotes} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const notes = data.notes.filter((note) => all || !note.isClosed);
  return (
    <Page
      title={wording.changeNotes}
      about={wording.about}
      actions={
        <>
          {segments}
          {notes.length > 0 && (
            <ExportMenu
              list={listOf(wording.changeNotes, notes, [
                [headings.number, (note) => note.number],
                [headings.title, (note) => note.title],
                [wording.owner, (note) => note.owner],
                [wording.registered, (note) => dayOf(new Date(note.createdAt), organisation.zone)],
                [wording.documents, (note) => wording.done(note.documents.done, note.documents.all)],
                [wording.tasks, (note) => wording.done(note.tasks.done, note.tasks.all)],
                [wording.nextDue, (note) => note.nextDue ?? ''],
              ])}
            />
          )}
        </>
      }
    >
      {notes.length === 0 ? (
        <Empty title={wording.noneYet}>{wording.howToBegin}</Empty>
      ) : (
        <>
          <table className="w-full border border-line bg-sheet max-md:hidden">
            <TableHead
              headings={[
                wording.title,
                wording.owner,
                wording.registered,
                wording.documents,
                wording.tasks,
                wording.nextDue,
              ]}
            />
            <tbody>
              {notes.map((note) => (
                <Row key={note.id} note={note} />
              ))}
            </tbody>
          </table>
          <ul className="md:hidden">
            {notes.map((note) => (
              <Card key={note.id} note={note} />
            ))}
          </ul>
        </>
      )}
    </Page>
  );
};

const addressOf = (note: ChangeNoteRow) => changeAddress(note.number);

const Share = ({ done, all, overdue = 0 }: { done: number; all: number; overdue?: number }) => (
  <span className="flex flex-col gap-1">
    <span className="text-[12.5px]">
      {all === 0 ? '–' : wording.done(done, all)}
      {overdue > 0 && <span className="ml-2 text-vermilion">{wording.overdueTasks(overdue)}</span>}
    </span>
    {all > 0 && (
      <span aria-hidden className="block h-1 w-24 bg-line-2">
        <span className="block h-1 bg-petrol" style={{ width: `${(done / all) * 100}%` }} />
      </span>
    )}
  </span>
);

const Row = ({ note }: { note: ChangeNoteRow }) => {
  const { organisation } = useMe();
  return (
    <tr className="border-b border-line-2 last:border-0">
      <td className="px-3 py-1.5">
        <Link to={addressOf(note)} className="hover:underline">
          <span className="num block">{note.number}</span>
          <b className="font-semibold">{note.title}</b>
        </Link>
        {note.isClosed && <span className="ml-2 text-[12px] text-ink-3">{wording.closed}</span>}
      </td>
      <td className="px-3 py-1.5 text-ink-2">{note.owner}</td>
      <td className="px-3 py-1.5 whitespace-nowrap text-ink-2">{showInstantDay(note.createdAt, organisation.zone)}</td>
      <td className="px-3 py-1.5">
        <Share {...note.documents} />
      </td>
      <td className="px-3 py-1.5">
        <Share {...note.tasks} />
      </td>
      <td className="px-3 py-1.5 whitespace-nowrap">{note.nextDue ? showDay(note.nextDue) : '–'}</td>
    </tr>
  );
};

const Card = ({ note }: { note: ChangeNoteRow }) => (
  <li className="border-b border-line-2 bg-sheet px-3 py-2.5">
    <Link to={addressOf(note)} className="block">
      <span className="num block">{note.number}</span>
      <b className="font-semibold">{note.title}</b>
    </Link>
    <span className="mt-1 grid grid-cols-2 gap-3">
      <span>
        <span className="cap block">{wording.documents}</span>
        <Share {...note.documents} />
      </span>
      <span>
        <span className="cap block">{wording.tasks}</span>
        <Share {...note.tasks} />
      </span>
    </span>
  </li>
);
