import { api, type DocumentPage } from '@kanonos/contract';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { useMe } from '../../app/session.tsx';
import { useCommand } from '../../app/useCommand.ts';
import { documentAddress } from '../../ui/addresses.ts';
import { CommandButton, TextArea, TextField } from '../../ui/controls.tsx';
import { DateField } from '../../ui/DateField.tsx';
import { leftToOpen } from '../../ui/FilesToOpen.tsx';
import { showDay } from '../../ui/format.ts';
import { ReasonField } from '../../ui/ReasonField.tsx';
import { SignBox } from '../../ui/SignBox.tsx';
import { SignedFiles } from '../../ui/SignedFiles.tsx';
import { Refusals, Why } from '../../ui/states.tsx';
import type { Review } from './review.ts';
import { wording } from './wording.ts';

type Outcome = 'confirm' | 'minor change' | 'major change' | 'withdrawal' | 'postpone';

const OUTCOMES: readonly { outcome: Outcome; title: string; about: string }[] = [
  { outcome: 'confirm', title: wording.confirmIt, about: wording.confirmAbout },
  { outcome: 'minor change', title: wording.aMinorChange, about: wording.aMinorChangeAbout },
  { outcome: 'major change', title: wording.aMajorChange, about: wording.aMajorChangeAbout },
  { outcome: 'withdrawal', title: wording.toWithdraw, about: wording.toWithdrawAbout },
  { outcome: 'postpone', title: wording.postpone, about: wording.postponeAbout },
];

/** The outcome of a review: a signature where it stays as it is, a comment and the way on otherwise. */
export const ReviewForm = ({
  page,
  review,
  askAgain,
}: {
  page: DocumentPage;
  review: Review;
  askAgain: () => unknown;
}) => {
  const { today } = useMe().organisation;
  const navigate = useNavigate();
  const [outcome, setOutcome] = useState<Outcome>('confirm');
  const [comment, setComment] = useState('');
  const [to, setTo] = useState('');
  const [sign, setSign] = useState({ name: '', password: '' });
  const address = documentAddress(page.number);
  const back = () => void navigate(address);
  const confirm = useCommand(api.reviews.confirm, ({ next }) => wording.confirmed(next ? showDay(next) : ''), back);
  const postpone = useCommand(api.reviews.postpone, wording.postponed(showDay(to)), back);
  const answer = useCommand(api.reviews.answer, wording.recorded, () => {
    const more =
      outcome === 'withdrawal'
        ? new URLSearchParams({ command: 'withdraw', reason: comment })
        : new URLSearchParams({
            command: 'revise',
            kind: outcome === 'minor change' ? 'minor' : 'major',
            reason: comment,
          });
    void navigate(`${address}?${more}`);
  });
  const { signing } = review;
  const submit = () => {
    const params = { document: page.id };
    const { due } = review;
    const seen = page.stateTag;
    if (outcome === 'confirm')
      confirm.mutate({
        params,
        body: { seen, due, comment, name: sign.name || null, password: sign.password, digest: signing.digest },
      });
    else if (outcome === 'postpone') postpone.mutate({ params, body: { seen, due, to, reason: comment } });
    else answer.mutate({ params, body: { seen, due, outcome, comment } });
  };
  const isLate = review.due < today;
  return (
    <form
      className="pane flex flex-col gap-3 self-start p-4"
      onSubmit={(event) => {
        event.preventDefault();
        submit();
      }}
    >
      <div>
        <h2>{wording.reviewOf(review.label)}</h2>
        <p className={isLate ? 'font-semibold text-vermilion' : 'text-ink-2'}>{wording.dueOn(showDay(review.due))}</p>
      </div>
      <fieldset>
        <legend className="sr-only">{wording.outcome}</legend>
        {OUTCOMES.map((one) => (
          <label key={one.outcome} className="flex min-h-7 items-baseline gap-2 py-0.5">
            <input
              type="radio"
              name="outcome"
              className="translate-y-0.5 accent-petrol"
              checked={outcome === one.outcome}
              onChange={() => setOutcome(one.outcome)}
            />
            <span>
              <b className="font-semibold">{one.title}</b> <span className="text-[12px] text-ink-2">{one.about}</span>
            </span>
          </label>
        ))}
      </fieldset>
      {outcome === 'confirm' && (
        <>
          {review.nextIfConfirmed && (
            <p className="text-[12.5px] text-ink-2">{wording.nextIfConfirmed(showDay(review.nextIfConfirmed))}</p>
          )}
          <TextField label={wording.comment} optional maxLength={2000} value={comment} onChange={setComment} />
          <SignedFiles files={signing.files} askAgain={askAgain} />
          <SignBox asksForName={signing.asksForName} value={sign} onChange={setSign} error={confirm.error} />
        </>
      )}
      {outcome === 'postpone' && (
        <>
          {review.latestPostponement ? (
            <DateField
              label={wording.toDay}
              required
              max={review.latestPostponement}
              value={to}
              onChange={setTo}
              hint={wording.fromToLatest(showDay(review.latestPostponement))}
            />
          ) : (
            <Why>{wording.cannotBePostponed}</Why>
          )}
          <ReasonField value={comment} onChange={setComment} />
        </>
      )}
      {outcome !== 'confirm' && outcome !== 'postpone' && (
        <TextArea
          label={outcome === 'withdrawal' ? wording.whyWithdraw : wording.whatIsNeeded}
          required
          rows={3}
          value={comment}
          onChange={setComment}
        />
      )}
      <Refusals error={confirm.error ?? postpone.error ?? answer.error} />
      <CommandButton
        busy={confirm.isPending || postpone.isPending || answer.isPending}
        disabled={
          (outcome === 'confirm' && leftToOpen(signing.files).length > 0) ||
          (outcome === 'postpone' && review.latestPostponement === null)
        }
        className="!h-9"
      >
        {outcome === 'confirm'
          ? wording.confirm
          : outcome === 'postpone'
            ? wording.postponeReview
            : outcome === 'withdrawal'
              ? wording.answerWithdrawal
              : wording.answerChange}
      </CommandButton>
    </form>
  );
};
