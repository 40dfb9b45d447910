import { type AnswerOf, type api, type DocumentPage, sentenceOf } from '@kanonos/contract';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { count } from '../../ui/format.ts';

const CHECKS: Record<string, string> = {
  signatures: 'All signatures are present and intact',
  record: 'The signed content is unchanged',
  content: 'The files are in the store',
  'check-out': 'Nothing is checked out',
  metadata: 'Required fields have values',
  comments: 'No blocking comment is open',
  readers: 'Readers are defined where the type requires it',
};
const WAYS: Record<string, string> = {
  reopen: 'Return to draft',
  'discard check-out': 'Ask for check-in',
  'resolve comment': 'Open comments',
  'define readers': 'Define readers',
};

/** The address at which a blocker is cleared. */
const wayTo = (address: string, way: string) =>
  way === 'resolve comment'
    ? `${address}?side=comments`
    : way === 'define readers'
      ? `${address}?tab=readers`
      : way === 'reopen'
        ? `${address}?command=reopen`
        : address;

/** What the preflight found, line by line, each with the way to clear it. */
export const PreflightList = ({
  page,
  preflight,
}: {
  page: DocumentPage;
  preflight: AnswerOf<typeof api.documents.preflight>;
}) => {
  const me = useMe();
  const address = `/d/${encodeURIComponent(page.number)}`;
  const blockers = preflight.lines.filter((line) => line.blocks);
  return (
    <section aria-label="Preflight" className="pane self-start">
      <div className="border-b border-line bg-film-2 px-4 py-2.5">
        <h1>
          {blockers.length === 0
            ? `Nothing blocks the release of ${page.revision.label || page.number}`
            : `${count(blockers.length, 'blocker')} before ${page.revision.label || page.number} can be released`}
        </h1>
        <p className="text-ink-2">
          {preflight.supersedes
            ? `${preflight.supersedes} is superseded at the moment of release.`
            : 'This is the first release.'}{' '}
          {preflight.readers > 0 && `${count(preflight.readers, 'person', 'people')} will be asked to read it.`}
        </p>
      </div>
      <ul>
        {preflight.lines.map((line) => (
          <li
            key={line.check + JSON.stringify(line.refusal ?? {})}
            className="grid grid-cols-[70px_minmax(0,1fr)_auto] items-center gap-3 border-b border-line-2 px-4 py-2"
          >
            <span className={`cap ${line.blocks ? '!text-vermilion' : '!text-petrol'}`}>
              {line.blocks ? 'Blocks' : 'Clear'}
            </span>
            <span>
              {line.refusal
                ? sentenceOf(line.refusal.code, line.refusal.params, me.organisation.zone)
                : (CHECKS[line.check] ?? line.check)}
            </span>
            {line.way && (
              <Link className="btn !h-6" to={wayTo(address, line.way)}>
                {WAYS[line.way] ?? line.way}
              </Link>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
};
