import { api } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { addressOf, ask } from '../../app/client.ts';
import { useMe } from '../../app/session.tsx';
import { count, showInstant, showSize } from '../../ui/format.ts';
import { Failed, Loading } from '../../ui/states.tsx';
import { Sheet } from './Sheet.tsx';
import { wording } from './wording.ts';

/** What is in a zip file, as names and sizes. */
export const EntriesView = ({ file }: { file: string }) => {
  const { data, error } = useQuery(ask(api.viewing.entries, { params: { file } }));
  if (error) return <Failed error={error} />;
  if (!data) return <Loading what={wording.theContents} />;
  return (
    <Sheet>
      <table className="w-full text-[12.5px]">
        <caption className="cap px-4 py-2 text-left">
          {wording.filesContentsPart(count(data.entries.length, 'file', 'files'), data.more ? wording.andMore : '')}
        </caption>
        <tbody>
          {data.entries.map((entry) => (
            <tr key={entry.name} className="border-t border-line-2">
              <td className="px-4 py-1 break-all">{entry.name}</td>
              <td className="px-4 py-1 text-right whitespace-nowrap text-ink-2">{showSize(entry.size)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Sheet>
  );
};

/** A mail as it is read, with its attachments to take away. */
export const MailView = ({ file, mark }: { file: string; mark?: string | undefined }) => {
  const { zone } = useMe().organisation;
  const { data, error } = useQuery({
    ...ask(api.viewing.mail, { params: { file } }),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (error) return <Failed error={error} />;
  if (!data) return <Loading what={wording.theMail} />;
  return (
    <Sheet mark={mark}>
      <dl className="grid grid-cols-[80px_minmax(0,1fr)] gap-y-0.5 border-b border-line px-9 pt-6 pb-4 text-[12.5px]">
        {[
          [wording.from, data.from],
          [wording.to, data.to],
          [wording.sent, data.date ? showInstant(data.date, zone) : '–'],
          [wording.subject, data.subject],
        ].map(([term, value]) => (
          <div key={term} className="contents">
            <dt className="cap pt-0.5">{term}</dt>
            <dd className={term === 'Subject' ? 'font-semibold' : ''}>{value}</dd>
          </div>
        ))}
        {data.attachments.length > 0 && (
          <div className="contents">
            <dt className="cap pt-0.5">{wording.attachments}</dt>
            <dd className="flex flex-wrap gap-x-3">
              {data.attachments.map((one) => (
                <a key={one.n} className="link" href={addressOf(api.viewing.attachment, { file, n: one.n })}>
                  {one.name} ({showSize(one.size)})
                </a>
              ))}
            </dd>
          </div>
        )}
      </dl>
      {/* biome-ignore lint/security/noDangerouslySetInnerHtml: cleaned by the server, and nothing may run under the page's policy */}
      <article className="reading px-9 py-6" dangerouslySetInnerHTML={{ __html: data.html }} />
    </Sheet>
  );
};

/** A film or a sound, played from where one wants: the server hands out ranges. */
export const MediaView = ({ address, kind, name }: { address: string; kind: 'film' | 'sound'; name: string }) => (
  <div className="grid h-full place-items-center">
    {kind === 'film' ? (
      // biome-ignore lint/a11y/useMediaCaption: what is filed has its own captions or none
      <video controls preload="metadata" src={address} aria-label={name} className="max-h-full max-w-full bg-black" />
    ) : (
      // biome-ignore lint/a11y/useMediaCaption: what is filed has its own captions or none
      <audio controls preload="metadata" src={address} aria-label={name} className="w-96" />
    )}
  </div>
);
