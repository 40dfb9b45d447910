import { type DocumentPage, type RoundInfo, type SignatureInfo, sentenceOf } from '@kanonos/contract';
import { useMe } from '../../app/session.tsx';
import { fingerprint, showDay, showInstant } from '../../ui/format.ts';
import { TabPanel } from '../../ui/TabPanel.tsx';
import { BesideRound } from '../rounds/adHoc/BesideRound.tsx';
import { PlannedRounds } from '../rounds/adHoc/PlannedRounds.tsx';
import { wording as adHoc } from '../rounds/adHoc/wording.ts';
import { SignedOutsideList } from '../signedOutside/SignedOutsideList.tsx';
import { RoundChanges } from './RoundChanges.tsx';
import { wording } from './wording.ts';

const STEP: Record<string, string> = {
  waiting: 'text-ink-3',
  open: 'text-ochre',
  done: 'text-petrol',
  rejected: 'text-vermilion',
  'not needed': 'text-ink-3',
};

/** Every run of the revision: steps, who was asked, what they decided, their signatures and whether those are intact. */
export const RoundPanel = ({ page, rounds }: { page: DocumentPage; rounds: RoundInfo[] }) => {
  const me = useMe();
  const latest = page.revision.versions;
  return (
    <TabPanel label={wording.route} className="px-4 py-3 text-[12.5px]">
      {rounds.map((round) => (
        <section key={round.id} className="mb-5">
          <h2>
            {round.isAdHoc
              ? wording.roundNamed(round.n, round.name, round.state === 'recalled' ? 'cancelled' : round.state)
              : wording.roundRoundNState(round.n, round.state)}{' '}
            <span className="font-normal text-ink-3">
              {(round.isAdHoc ? wording.startedBy : wording.submittedBy)(
                round.startedBy.name,
                showInstant(round.startedAt, me.organisation.zone),
              )}
            </span>
          </h2>
          {round.isAdHoc && (
            <p className="text-ink-2">
              {adHoc.adHoc}. {adHoc.adHocAbout} {round.lastDay && adHoc.lastDayIs(showDay(round.lastDay))}
            </p>
          )}
          <BesideRound round={round} />
          {round.message && <p className="text-ink-2">“{round.message}”</p>}
          {round.forecast && (
            <p className="text-ink-2">
              {wording.likelyDoneBy(
                showDay(round.forecast.half, true),
                showDay(round.forecast.mostly, true),
                showDay(round.forecast.nearlyAll, true),
              )}
            </p>
          )}
          <RoundChanges page={page} round={round} />
          {round.blockers.map((refusal) => (
            <p
              key={refusal.code + JSON.stringify(refusal.params)}
              className="mt-1 border-l-3 border-ochre bg-ochre-tint px-2 py-1"
            >
              {wording.blockedRefusalCode(sentenceOf(refusal.code, refusal.params, me.organisation.zone))}
            </p>
          ))}
          <ol className="mt-1.5 border-t border-line">
            {round.steps.map((step, index) => (
              <li key={step.id} className="border-b border-line-2 py-1.5">
                <p>
                  <b className="font-semibold">
                    {step.n}. {step.name}
                  </b>{' '}
                  <span className={STEP[step.state]}>
                    {step.assignments.length === 0 ? wording.doesNotApply : step.state}
                  </span>
                  <span className="text-ink-3">
                    {' '}
                    · {step.rule}
                    {step.stage === round.steps[index - 1]?.stage && wording.atTheSameTime}
                    {step.dueOn && wording.dueDueOn(showDay(step.dueOn))}
                  </span>
                </p>
                {step.assignments.map((a) => (
                  <div key={a.id} className="mt-0.5 pl-4">
                    {a.state === 'answered' ? (
                      <>
                        <b className="font-[550]">{a.decidedBy?.name}</b>
                        {a.decidedBy?.id !== a.person.id && wording.forPerson(a.person.name)}: {a.decision}
                        <span className="text-ink-3">
                          {wording.onVersion} {a.onVersion}
                          {a.onVersion !== null && a.onVersion < latest && ` (${wording.olderVersion})`},{' '}
                          {a.decidedAt && showInstant(a.decidedAt, me.organisation.zone)}
                        </span>
                        {a.comment && <span className="block text-ink-2">“{a.comment}”</span>}
                        {a.signature && <Signature signature={a.signature} />}
                      </>
                    ) : (
                      <span className={a.overdue ? 'text-vermilion' : 'text-ink-2'}>
                        {a.person.name}: {a.state === 'open' ? (a.overdue ? 'overdue' : 'asked') : a.state}
                        {a.awayDeputy && wording.awayIsActing(a.awayDeputy.name)}
                      </span>
                    )}
                  </div>
                ))}
              </li>
            ))}
          </ol>
        </section>
      ))}
      {page.signatures.length > 0 && (
        <section>
          <h2>{adHoc.furtherSignatures}</h2>
          <ul>
            {page.signatures.map((signature) => (
              <li key={signature.id}>
                <Signature signature={signature} />
              </li>
            ))}
          </ul>
        </section>
      )}
      <PlannedRounds page={page} />
      <SignedOutsideList page={page} />
    </TabPanel>
  );
};

/** A signature with name, time and meaning together (21 CFR 11.50), and whether it still binds. */
export const Signature = ({ signature }: { signature: SignatureInfo }) => (
  <div
    className={`my-1 inline-block border px-2.5 py-1 ${signature.state === 'intact' ? 'border-petrol' : signature.state === 'void' ? 'border-line text-ink-3' : 'border-vermilion text-vermilion'}`}
  >
    <span className="cap">{wording.signed}</span> <b className="font-semibold">{signature.printedName}</b>
    {signature.forPerson && wording.forForPerson2(signature.forPerson)}, {showInstant(signature.at, signature.zone)}{' '}
    {signature.zone}: <em className="not-italic">{signature.meaning}</em>
    <span className="block text-[11.5px]">
      <span className="num">{fingerprint(signature.digest)}</span> · {signature.state}
      {signature.voidReason && ` (${signature.voidReason})`}
    </span>
  </div>
);
