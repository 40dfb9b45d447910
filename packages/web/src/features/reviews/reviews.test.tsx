import { api } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import { describe, expect, it, vi } from 'vitest';
import { documentPage } from '../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { ReviewForm } from './ReviewForm.tsx';
import { Earlier, UseSince } from './ReviewPage.tsx';
import type { Review } from './review.ts';

const page = documentPage({ reviewOn: '2026-12-01', reviewIsDue: true });
const params = { document: page.id };
const review = (changes: Partial<Review> = {}): Review => ({
  label: 'B',
  due: '2026-12-01',
  nextIfConfirmed: '2028-12-01',
  latestPostponement: '2027-01-30',
  use: {
    since: '2025-03-11',
    openings: 42,
    readers: 9,
    readingsSigned: 14,
    comments: 3,
    openComments: 1,
    changeRequests: 2,
    citedBy: 5,
  },
  earlier: [],
  signing: { digest: 'd1', asksForName: false, files: [{ id: 'f1', name: 'text.docx', opened: true }] },
  ...changes,
});
const form = (answers = {}, changes: Partial<Review> = {}) =>
  renderPage(<ReviewForm page={page} review={review(changes)} askAgain={async () => undefined} />, answers);

describe('the outcome of a review', () => {
  it('is a confirmation with a signature over what was seen', async () => {
    const { user, router } = form({ [at(api.reviews.confirm, params)]: { next: '2028-12-01' } });
    expect(screen.getByText('Next review on 1 Dec 2028')).toBeTruthy();
    await user.type(screen.getByLabelText('Password of Mara Quill'), 'secret');
    await user.click(screen.getByRole('button', { name: 'Sign and confirm' }));
    expect(lastSent()?.body).toMatchObject({ seen: 'seen-1', due: '2026-12-01', digest: 'd1', password: 'secret' });
    await vi.waitFor(() => expect(router.state.location.pathname).toBe(`/d/${page.number}`));
  });

  it.each([
    ['Minor change', 'What has to change, and why', 'Record and revise', 'minor change', 'revise', 'minor'],
    ['Major change', 'What has to change, and why', 'Record and revise', 'major change', 'revise', 'major'],
    ['Withdraw', 'Why nobody needs it', 'Record and withdraw', 'withdrawal', 'withdraw', null],
  ])('%s: is recorded and leads on with what was said', async (title, label, button, outcome, command, kind) => {
    const { user, router } = form({ [at(api.reviews.answer, params)]: {} });
    await user.click(screen.getByRole('radio', { name: new RegExp(`^${title}`) }));
    await user.type(screen.getByLabelText(label), 'The grease has another name');
    await user.click(screen.getByRole('button', { name: button }));
    expect(lastSent()?.body).toMatchObject({ outcome, comment: 'The grease has another name' });
    await vi.waitFor(() => expect(router.state.location.search).toContain(`command=${command}`));
    const asked = new URLSearchParams(router.state.location.search);
    expect([asked.get('kind'), asked.get('reason')]).toEqual([kind, 'The grease has another name']);
  });

  it('is postponed with a day within the limit and a reason', async () => {
    const { user } = form({ [at(api.reviews.postpone, params)]: {} });
    await user.click(screen.getByRole('radio', { name: /^Postpone/ }));
    expect(screen.getByText('By 30 Jan 2027 at the latest')).toBeTruthy();
    await user.type(screen.getByLabelText('To'), '10 jan 2027');
    await user.type(screen.getByLabelText('Reason'), 'The season begins');
    await user.click(screen.getByRole('button', { name: 'Postpone review' }));
    expect(lastSent()?.body).toMatchObject({ to: '2027-01-10', reason: 'The season begins', due: '2026-12-01' });
  });

  it('cannot be postponed beyond the limit', async () => {
    const { user } = form({}, { latestPostponement: null });
    await user.click(screen.getByRole('radio', { name: /^Postpone/ }));
    expect(screen.getByText('It cannot be postponed any more.')).toBeTruthy();
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Postpone review' }).disabled).toBe(true);
  });

  it('stays with what was typed where it is refused', async () => {
    const { user } = form({
      [at(api.reviews.answer, params)]: refusedWith(409, 'changed_meanwhile', 'Somebody else changed it meanwhile.'),
    });
    await user.click(screen.getByRole('radio', { name: /^Minor change/ }));
    await user.type(screen.getByLabelText('What has to change, and why'), 'Table 2');
    await user.click(screen.getByRole('button', { name: 'Record and revise' }));
    expect(await screen.findByText('Somebody else changed it meanwhile.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLTextAreaElement>('What has to change, and why').value).toBe('Table 2');
  });
});

it('a review shows how the document was used, and what became of earlier ones', async () => {
  const shown = review({
    earlier: [
      {
        at: '2025-03-11T09:00:00.000Z',
        by: { id: 'p1', name: 'Otto Brandvik' },
        outcome: 'confirmed',
        due: '2025-03-10',
        next: '2026-12-01',
        comment: 'Read with the crew',
      },
    ],
  });
  renderPage(
    <>
      <UseSince number={page.number} review={shown} />
      <Earlier review={shown} />
    </>,
  );
  const use = await screen.findByRole('region', { name: 'Use since 11 Mar 2025' });
  expect(within(use).getByText('42')).toBeTruthy();
  expect(within(use).getByText('by 9 people')).toBeTruthy();
  const earlier = screen.getByRole('region', { name: 'Earlier reviews' });
  expect(earlier.textContent).toContain('Confirmed');
  expect(earlier.textContent).toContain('Read with the crew');
});
