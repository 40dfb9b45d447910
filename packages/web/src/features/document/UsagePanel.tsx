import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { ExportMenu, listOf } from '../../ui/ExportMenu.tsx';
import { count, showInstant } from '../../ui/format.ts';
import { headings } from '../../ui/headings.ts';
import { Empty, Failed, Loading } from '../../ui/states.tsx';
import { TabPanel } from '../../ui/TabPanel.tsx';
import { wording } from './wording.ts';

/** Who has opened or downloaded the document, newest first. */
export const UsagePanel = ({ number }: { number: string }) => {
  const me = useMe();
  const { data, error, isPending, refetch } = useQuery(ask(api.documents.usage, { params: { document: number } }));
  if (isPending) return <Loading what={wording.whoHasOpenedIt} />;
  if (error) return <Failed error={error} again={() => void refetch()} />;
  if (data.lines.length === 0) return <Empty title={wording.nobodyHasOpenedItYet} />;
  return (
    <TabPanel label={wording.openedBy}>
      <div className="flex items-center justify-between gap-3 px-3 py-2">
        <p className="text-ink-2">{count(data.total, wording.openedOrDownloaded, wording.timesOpenedOrDownloaded)}.</p>
        <ExportMenu
          list={listOf(`${number} ${wording.openedBy}`, data.lines, [
            [headings.at, (line) => showInstant(line.at, me.organisation.zone)],
            [wording.person, (line) => line.person],
            [headings.action, (line) => line.action],
            [wording.rev, (line) => line.label],
            [wording.version, (line) => line.version],
          ])}
        />
      </div>
      <table className="w-full text-[12.5px]">
        <tbody>
          {data.lines.map((line) => (
            <tr key={line.at + line.person + line.action} className="border-t border-line-2">
              <td className="px-3 py-1 whitespace-nowrap">{showInstant(line.at, me.organisation.zone)}</td>
              <td className="px-3 py-1">{line.person}</td>
              <td className="px-3 py-1">{wording.actionLineVersionVersion(line.action, line.label, line.version)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </TabPanel>
  );
};
