import { type AnswerOf, api } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useDropzone } from 'react-dropzone';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { workAddress } from '../../ui/addresses.ts';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { count, showDay, showInstantDay } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { CheckInMany } from './CheckInMany.tsx';
import { DeskTabs } from './DeskTabs.tsx';
import { DriveFiles } from './DriveFiles.tsx';
import { wording } from './wording.ts';

type Row = AnswerOf<typeof api.tasks.checkouts>['rows'][number];

/** What is checked out, to whom and since when; changed files are dropped here all at once to be checked in. */
export const CheckedOutPage = () => {
  const { data, error, isPending, refetch } = useQuery(ask(api.tasks.checkouts));
  const { zone } = useMe().organisation;
  const [files, setFiles] = useState<File[]>([]);
  const { getRootProps, getInputProps, isDragActive, open } = useDropzone({
    onDrop: (dropped) => setFiles(dropped),
    noClick: true,
    noKeyboard: true,
  });
  if (isPending) return <Loading what={wording.theCheckOuts} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const mine = data.rows.filter((row) => row.mine);
  const others = data.rows.filter((row) => !row.mine);
  return (
    <div {...getRootProps({ className: `flex-1 overflow-y-auto px-4 py-3.5 ${isDragActive ? 'bg-petrol-tint' : ''}` })}>
      <input {...getInputProps({ 'aria-label': wording.changedFiles })} />
      <div className="mb-3 flex items-end justify-between">
        <div>
          <h1>{wording.checkedOut}</h1>
          <span className="text-ink-2">
            {mine.length > 0
              ? wording.checkedOutToYouDropThe(count(mine.length, 'document', 'documents'))
              : wording.noneToYou}
          </span>
        </div>
        <span className="flex items-center gap-3">
          {mine.length > 0 && (
            <button type="button" className="btn btn-pri" onClick={open}>
              {wording.checkInSeveralFiles}
            </button>
          )}
          {data.rows.length > 0 && (
            <ExportMenu
              list={listOf(wording.checkedOut, data.rows, [
                [headings.number, (row) => row.number],
                [headings.revision, (row) => row.label],
                [headings.title, (row) => row.title],
                [wording.who, (row) => row.person.name],
                [wording.since, (row) => dayOf(new Date(row.since), zone)],
                [wording.expectedBack, (row) => row.expectedBack],
                [headings.note, (row) => row.note],
              ])}
            />
          )}
          <DeskTabs />
        </span>
      </div>
      <DriveFiles />
      {data.rows.length === 0 && (
        <Empty title={wording.nothingIsCheckedOut}>{wording.documentsThatSomeoneHasCheckedOut}</Empty>
      )}
      {[
        { title: wording.toYou, rows: mine },
        { title: wording.toOthers, rows: others },
      ].map(
        ({ title, rows }) =>
          rows.length > 0 && (
            <section key={title} aria-label={title} className="mb-4">
              <h2 className="px-0.5 pb-1.5">{title}</h2>
              <Checkouts rows={rows} />
            </section>
          ),
      )}
      {files.length > 0 && <CheckInMany files={files} mine={mine} close={() => setFiles([])} />}
    </div>
  );
};

const Checkouts = ({ rows }: { rows: readonly Row[] }) => {
  const { zone } = useMe().organisation;
  const command = (row: Row, name: string) => workAddress(row.number, `command=${encodeURIComponent(name)}`);
  return (
    <table className="w-full table-fixed border border-line bg-sheet">
      <TableHead
        headings={[
          { text: wording.document, className: 'w-[38%]' },
          { text: wording.who, className: 'w-[16%]' },
          { text: wording.since, className: 'w-[15%]' },
          { text: wording.expectedBack, className: 'w-[13%]' },
          { text: wording.actions, className: 'w-[18%]', hidden: true },
        ]}
      />
      <tbody>
        {rows.map((row) => (
          <tr key={row.documentId} className="border-b border-line-2 last:border-0">
            <td className="px-3 py-1.5">
              <Link to={workAddress(row.number)} className="block truncate hover:underline">
                <span className="num mr-2">
                  {row.number} {row.label}
                </span>
                <b className="font-semibold">{row.title}</b>
              </Link>
              {row.note && <span className="block truncate text-[12px] text-ink-3">{row.note}</span>}
            </td>
            <td>{row.person.name}</td>
            <td className="text-ink-2">
              {showInstantDay(row.since, zone)}, {row.days ? `${row.days} d` : 'today'}
            </td>
            <td className={row.overdue ? 'font-semibold text-vermilion' : 'text-ink-2'}>
              {row.expectedBack ? showDay(row.expectedBack) : '–'}
              {row.overdue && wording.overdue}
            </td>
            <td className="pr-3 text-right whitespace-nowrap">
              {row.mine ? (
                <>
                  <Link className="btn !h-6" to={command(row, 'check in')}>
                    {wording.checkIn3}
                  </Link>{' '}
                  <Link className="btn btn-quiet !h-6" to={command(row, 'discard check-out')}>
                    {wording.discard}
                  </Link>
                </>
              ) : (
                row.mayTakeOver && (
                  <Link className="btn btn-quiet !h-6" to={command(row, 'take over check-out')}>
                    {wording.takeOver}
                  </Link>
                )
              )}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
};
