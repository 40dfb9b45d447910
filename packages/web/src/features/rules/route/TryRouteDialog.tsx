import { type AnswerOf, api, type Route } from '@kanonos/contract';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { call } from '../../../app/client.ts';
import { workAddress } from '../../../ui/addresses.ts';
import { CloseButton, Dialog } from '../../../ui/controls.tsx';
import { showDay } from '../../../ui/format.ts';
import { Loading, Refusals } from '../../../ui/states.tsx';
import { wording } from '../wording.ts';

type Trial = AnswerOf<typeof api.rounds.tryRoute>;
type Tried = Trial['documents'][number];

const doubtWords = ({
  kind,
  steps: [first = '', second = ''],
  person,
  needed,
  named,
}: Trial['doubts'][number]): string => {
  switch (kind) {
    case 'nothing is signed':
      return wording.nothingIsSigned;
    case 'signature without meaning':
      return wording.signatureWithoutMeaning(first);
    case 'owner is the only approver':
      return wording.onlyTheOwnerApproves(first);
    case 'author is the only approver':
      return wording.onlyTheAuthorApproves(first);
    case 'one person in two approvals':
      return wording.bothAskOnly(first, second, person ?? '');
    case 'never enough people':
      return wording.neverEnoughPeople(first, needed ?? 0, named ?? 0);
    case 'never asked':
      return wording.neverAsked(first);
    case 'always asked':
      return wording.alwaysAsked(first);
    case 'approval may fall away':
      return wording.approvalMayFallAway;
    case 'nobody may be asked':
      return wording.nobodyMayBeAsked;
    case 'waits for both':
      return wording.waitsForBoth(first);
  }
};

const problemWords = ({ kind, steps: [first = '', second = ''], person }: Tried['problems'][number]): string => {
  switch (kind) {
    case 'nobody is asked':
      return wording.wouldAskNobody(first);
    case 'only the author approves':
      return wording.wouldAskOnlyTheAuthor(first);
    case 'same person must sign twice':
      return wording.bothAskOnly(first, second, person ?? '');
  }
};

/** A route before it is used: what is doubtful in it, whom it would ask for documents of the type, and where it would stop. */
export const TryRouteDialog = ({
  typeId,
  route,
  fallbackApproverId,
  changeKind,
  close,
}: {
  typeId: string;
  route: Route;
  fallbackApproverId: string | null;
  /** The change kind that the route is for; every kind where none is given. */
  changeKind?: 'minor' | 'major' | 'editorial' | undefined;
  close: () => void;
}) => {
  const { data, error } = useQuery({
    queryKey: ['rounds', 'tryRoute', typeId, route, fallbackApproverId, changeKind],
    queryFn: ({ signal }) =>
      call(api.rounds.tryRoute, { params: { id: typeId }, body: { route, fallbackApproverId, changeKind }, signal }),
  });
  return (
    <Dialog open wide onClose={close} title={wording.tryThisRoute}>
      {error ? <Refusals error={error} /> : data ? <Result trial={data} /> : <Loading what={wording.theTrial} />}
      <CloseButton onClose={close} />
    </Dialog>
  );
};

const Result = ({ trial }: { trial: Trial }) => {
  const stopped = trial.documents.slice(0, Math.min(trial.stopped, trial.documents.length));
  const fine = trial.documents.slice(stopped.length);
  return (
    <div className="flex flex-col gap-3">
      {trial.doubts.length > 0 && (
        <ul className="border-l-3 border-ochre bg-ochre-tint px-3 py-1.5 text-ochre">
          {trial.doubts.map((doubt) => (
            <li key={doubt.kind + doubt.steps.join()}>{doubtWords(doubt)}</li>
          ))}
        </ul>
      )}
      <p>
        {trial.tried === 0
          ? wording.noDocumentsToTry
          : trial.stopped === 0
            ? wording.allWouldPass(trial.tried)
            : wording.someWouldStop(trial.stopped, trial.tried)}
        {trial.all > trial.tried && ` ${wording.newestWereTried(trial.tried, trial.all)}`}
      </p>
      <div className="max-h-[46vh] overflow-y-auto">
        {stopped.length > 0 && <TriedDocuments title={wording.wouldStop} documents={stopped} />}
        {fine.length > 0 && <TriedDocuments title={wording.wouldAsk} documents={fine} />}
      </div>
    </div>
  );
};

const TriedDocuments = ({ title, documents }: { title: string; documents: readonly Tried[] }) => (
  <section aria-label={title} className="mb-3">
    <h3 className="cap pb-1">{title}</h3>
    <ul>
      {documents.map((one) => (
        <li key={one.documentId} className="border-t border-line-2 py-1.5">
          <Link to={workAddress(one.number)} className="hover:underline">
            <span className="num mr-2">
              {one.number} {one.label}
            </span>
            {one.title}
          </Link>
          {one.problems.map((problem) => (
            <p key={problem.kind + problem.steps.join()} className="text-vermilion">
              {problemWords(problem)}
            </p>
          ))}
          <p className="text-[12px] text-ink-2">
            {one.steps
              .map(
                ({ name, applies, people }) => `${name}: ${applies ? people.join(', ') || '–' : wording.doesNotApply}`,
              )
              .join(' → ')}
            {one.forecast && ` · ${wording.likelyDoneOn(showDay(one.forecast.half, true))}`}
          </p>
        </li>
      ))}
    </ul>
  </section>
);
