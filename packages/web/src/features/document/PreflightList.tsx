import { type AnswerOf, type api, type DocumentPage, sentenceOf } from '@kanonos/contract';
import { Link } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { changeAddress, workAddress } from '../../ui/addresses.ts';
import { count } from '../../ui/format.ts';
import { wording } from './wording.ts';

const CHECKS: Record<string, string> = {
  signatures: wording.allSignaturesArePresentAndIntact,
  record: wording.theSignedContentIsUnchanged,
  content: wording.theFilesAreInTheStore,
  'check-out': wording.nothingIsCheckedOut,
  metadata: wording.requiredFieldsHaveValues,
  comments: wording.noBlockingCommentIsOpen,
  readers: wording.readersAreDefinedWhereTheType,
  'change note': wording.theChangeNoteIsInOrder,
};
const WAYS: Record<string, string> = {
  reopen: wording.returnToDraft2,
  'discard check-out': wording.askForCheckIn,
  'resolve comment': wording.openComments,
  'define readers': wording.defineReaders,
  'change note': wording.openChangeNote,
};

/** The address at which a blocker is cleared. */
const wayTo = (number: string, way: string, note: string | undefined) =>
  way === 'resolve comment'
    ? workAddress(number, 'side=comments')
    : way === 'define readers'
      ? workAddress(number, 'tab=readers')
      : way === 'reopen'
        ? workAddress(number, 'command=reopen')
        : way === 'change note' && note
          ? changeAddress(note)
          : workAddress(number);

/** What the preflight found, line by line, each with the way to clear it. */
export const PreflightList = ({
  page,
  preflight,
}: {
  page: DocumentPage;
  preflight: AnswerOf<typeof api.documents.preflight>;
}) => {
  const me = useMe();
  const blockers = preflight.lines.filter((line) => line.blocks);
  return (
    <section aria-label={wording.preflight} className="pane self-start">
      <div className="border-b border-line bg-film-2 px-4 py-2.5">
        <h1>
          {blockers.length === 0
            ? wording.nothingBlocksTheReleaseOf(page.revision.label || page.number)
            : wording.beforeCanBeReleased(count(blockers.length, 'blocker'), page.revision.label || page.number)}
        </h1>
        <p className="text-ink-2">
          {preflight.supersedes
            ? wording.isSupersededAtTheMomentOf(preflight.supersedes)
            : wording.thisIsTheFirstRelease}{' '}
          {preflight.readers > 0 && wording.willBeAskedToReadIt(count(preflight.readers, 'person', 'people'))}
        </p>
      </div>
      <ul>
        {preflight.lines.map((line) => (
          <li
            key={line.check + JSON.stringify(line.refusal ?? {})}
            className="grid grid-cols-[70px_minmax(0,1fr)_auto] items-center gap-3 border-b border-line-2 px-4 py-2"
          >
            <span className={`cap ${line.blocks ? '!text-vermilion' : '!text-petrol'}`}>
              {line.blocks ? wording.blocks : wording.clear}
            </span>
            <span>
              {line.refusal
                ? sentenceOf(line.refusal.code, line.refusal.params, me.organisation.zone)
                : (CHECKS[line.check] ?? line.check)}
            </span>
            {line.way && (
              <Link className="btn !h-6" to={wayTo(page.number, line.way, page.changeNotes[0]?.number)}>
                {WAYS[line.way] ?? line.way}
              </Link>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
};
