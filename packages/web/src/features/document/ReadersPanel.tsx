import { api, type DocumentPage, type Requirement } from '@kanonos/contract';
import { dayOf } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { count, showDay, showInstantDay } from '../../ui/format.ts';
import { ReadingCell } from '../../ui/ReadingCell.tsx';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TableHead } from '../../ui/TableHead.tsx';
import { TabPanel } from '../../ui/TabPanel.tsx';
import { ReadersDialog } from './commands/ReadersDialog.tsx';
import { wording } from './wording.ts';

const audienceWords = (r: Requirement) =>
  [
    r.audience.everyone ? 'everyone' : '',
    ...r.audience.units.map((u) => u.name),
    ...r.audience.people.map((p) => p.name),
  ]
    .filter(Boolean)
    .join(', ') + (r.audience.except.length ? wording.exceptPart(r.audience.except.map((p) => p.name).join(', ')) : '');

/** Who must read the document, the instructions, and the state of each reader. */
export const ReadersPanel = ({ page }: { page: DocumentPage }) => {
  const me = useMe();
  const [editing, setEditing] = useState(false);
  const { data, error, isPending, refetch } = useQuery(
    ask(api.reading.readers, { params: { document: page.id }, query: { revision: page.revision.id } }),
  );
  if (isPending) return <Loading what={wording.theReaders} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  const [requirement] = data.requirements;
  return (
    <TabPanel label={wording.readers} className="text-[12.5px]">
      <div className="flex items-start justify-between gap-3 border-b border-line px-4 py-2.5">
        <div>
          {requirement ? (
            <>
              <p>
                <b className="font-semibold">{audienceWords(requirement)}</b>{' '}
                {wording.withinNewJoinersWithin(
                  requirement.kind === 'read and sign' ? wording.mustReadAndSign : wording.receiveItForInformation,
                  count(requirement.workingDays, wording.workingDay),
                  requirement.newJoinerDays,
                )}
                {requirement.beforeInForce && wording.itMayBeReadBeforeIt}
              </p>
              {requirement.instructions && <p className="text-ink-2">“{requirement.instructions}”</p>}
              <p className="text-ink-3">
                {Object.entries(requirement.perChange)
                  .map(([kind, policy]) => `${kind}: ${policy}`)
                  .join(' · ')}
              </p>
            </>
          ) : (
            <p>{wording.noReadersAreDefined}</p>
          )}
          {data.compliance.percent !== null && (
            <p className="mt-1">
              <b className="font-semibold">{data.compliance.percent} %</b>{' '}
              {wording.readOf(data.compliance.done, data.compliance.owed)}
            </p>
          )}
        </div>
        <span className="flex gap-1.5">
          {data.readers.length > 0 && (
            <ExportMenu
              list={listOf(`${page.number} ${wording.readers}`, data.readers, [
                [wording.person, (reader) => reader.person.name],
                [wording.department, (reader) => reader.department],
                [wording.rev, (reader) => reader.label],
                [wording.state, (reader) => reader.state],
                [wording.due, (reader) => reader.due],
                [
                  wording.signed,
                  (reader) => (reader.closedAt ? dayOf(new Date(reader.closedAt), me.organisation.zone) : null),
                ],
              ])}
            />
          )}
          {data.mayManage && !page.view && (
            <button type="button" className="btn" onClick={() => setEditing(true)}>
              {requirement ? wording.editReaders : wording.defineReaders}
            </button>
          )}
        </span>
      </div>
      {data.readers.length === 0 ? (
        <Empty title={wording.noReadingsYet}>{wording.readingsAppearOnceARevisionMay}</Empty>
      ) : (
        <table className="w-full">
          <TableHead
            className=""
            headings={[wording.person, wording.department, wording.rev, wording.state, wording.due, wording.signed]}
          />
          <tbody>
            {data.readers.map((reader) => (
              <tr key={reader.assignmentId} className="border-b border-line-2">
                <td className="px-3 py-1">{reader.person.name}</td>
                <td className="px-3 py-1 text-ink-2">{reader.department ?? '–'}</td>
                <td className="num px-3 py-1">{reader.label}</td>
                <td className="w-24 px-3 py-1">
                  <ReadingCell state={reader.state} />
                </td>
                <td className="px-3 py-1 whitespace-nowrap">{showDay(reader.due)}</td>
                <td className="px-3 py-1 whitespace-nowrap">{showInstantDay(reader.closedAt, me.organisation.zone)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {editing && <ReadersDialog page={page} requirement={requirement} close={() => setEditing(false)} />}
    </TabPanel>
  );
};
