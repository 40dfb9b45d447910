import { api, type Task } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { approvalTask, original, version } from '../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { DecidePage } from './DecidePage.tsx';

const draw = (changes: Partial<Task> = {}, answer: unknown = { runState: 'done', documentState: 'approved' }) => {
  const task = approvalTask(changes);
  return renderPage(<DecidePage />, {
    [at(api.tasks.task, { assignment: '' })]: task,
    [at(api.tasks.decide, { assignment: task.assignmentId })]: answer,
  });
};
const command = (name: string | RegExp) => screen.getByRole<HTMLButtonElement>('button', { name });

describe('an approval', () => {
  it('says who asks for what, until when, and what changed', async () => {
    draw();
    expect(await screen.findByRole('heading', { name: 'Approval' })).toBeTruthy();
    expect(screen.getByText(/asked by Otto Brandvik/)).toBeTruthy();
    expect(screen.getByText(/3 Dec/)).toBeTruthy();
    expect(screen.getByText('“Please before the winter.”')).toBeTruthy();
    expect(screen.getByText('12 kN').tagName).toBe('DEL');
    expect(screen.getByText('14 kN')).toBeTruthy();
  });

  it('of a change note shows what it affects', async () => {
    const task = approvalTask({ isChangeNote: true });
    const { user } = renderPage(<DecidePage />, {
      [at(api.tasks.task, { assignment: '' })]: task,
      [at(api.changes.note, { document: task.document.number })]: {
        affected: [],
        hidden: 3,
        tasks: [],
        isAgreed: false,
        closed: null,
        open: [],
        mayChange: false,
      },
    });
    await user.click(await screen.findByRole('button', { name: 'Affected and tasks' }));
    expect(await screen.findByText('3 more affected documents are not visible to you.')).toBeTruthy();
  });

  it('shows what the text cites and what cites the document', async () => {
    const task = approvalTask();
    const cited = {
      label: 'B',
      state: 'in force',
      onHold: true,
      distance: 1,
      path: [],
      id: 'd2',
      number: 'THR-WIN-0337',
      title: 'Check of the wind gauges',
    };
    const { user } = renderPage(<DecidePage />, {
      [at(api.tasks.task, { assignment: '' })]: task,
      [at(api.citations.ofDocument, { document: task.document.number })]: {
        cites: [],
        citedBy: [{ ...cited, citedLabel: 'B', kind: 'outdated', excerpt: 'as in' }],
        reached: [cited],
        edges: [],
        capped: false,
        complete: true,
      },
      [at(api.links.list, { document: task.document.number })]: { from: [], to: [], mayChange: false, itemKinds: [] },
    });
    await user.click(await screen.findByRole('button', { name: 'Citations' }));
    expect(await screen.findByText('Check of the wind gauges')).toBeTruthy();
    expect(screen.getByText('On hold: do not use')).toBeTruthy();
    expect(screen.getByText('The text contains no document number.')).toBeTruthy();
  });

  it('says what the signature covers', async () => {
    const { user } = draw();
    await user.click(await screen.findByText('Your signature covers 1 file and 1 field'));
    expect(screen.getByText(/a1a1/)).toBeTruthy();
    expect(screen.getByText('Equipment:')).toBeTruthy();
  });

  it('asks for the password only where one signs, and sends what was seen', async () => {
    const { user, router } = draw();
    expect((await screen.findByRole<HTMLButtonElement>('button', { name: 'Choose a decision' })).disabled).toBe(true);
    expect(screen.queryByLabelText('Password of Mara Quill')).toBeNull();
    await user.click(screen.getByRole('radio', { name: /^Approve/ }));
    await user.type(screen.getByLabelText('Password of Mara Quill'), 'not a real one');
    await user.click(command('Sign approval of C'));
    expect(lastSent()?.body).toEqual({
      decision: 'approve',
      comment: '',
      name: null,
      password: 'not a real one',
      digest: approvalTask().digest,
      version: 2,
    });
    await waitFor(() => expect(router.state.location.pathname).toBe('/'));
  });

  it('asks for the name, too, at the first signature of a period', async () => {
    const { user } = draw({ asksForName: true });
    await user.click(await screen.findByRole('radio', { name: /^Approve/ }));
    await user.type(screen.getByLabelText('Sign-in name'), 'mara.quill');
    await user.type(screen.getByLabelText('Password of Mara Quill'), 'secret');
    await user.click(command('Sign approval of C'));
    expect(lastSent()?.body).toMatchObject({ name: 'mara.quill', password: 'secret' });
  });

  it('waits until every file was opened, and names those that were not', async () => {
    const { user } = draw({
      files: [
        { id: 'f1', name: 'grip-overhaul.docx', opened: true },
        { id: 'f2', name: 'plate-2.pdf', opened: false },
      ],
      version: version([original({ id: 'f1', show: 'none' }), original({ id: 'f2', show: 'none' })]),
    });
    await user.click(await screen.findByRole('radio', { name: /^Approve/ }));
    expect(command('Sign approval of C').disabled).toBe(true);
    expect(screen.getByText(/Your signature covers 2 files/)).toBeTruthy();
    await user.click(command('plate-2.pdf'));
    expect(screen.getByRole('tab', { name: /plate-2\.pdf/ }).getAttribute('aria-selected')).toBe('true');
  });

  it('is rejected with a comment, without a signature', async () => {
    const { user } = draw({}, { runState: 'rejected', documentState: 'draft' });
    await user.click(await screen.findByRole('radio', { name: /^Reject/ }));
    expect(screen.getByText('returns to Otto Brandvik with your comment')).toBeTruthy();
    await user.type(screen.getByLabelText('Comment'), 'The limit of row 3 is missing.');
    await user.click(command('Reject'));
    expect(lastSent()?.body).toMatchObject({
      decision: 'reject',
      comment: 'The limit of row 3 is missing.',
      password: null,
    });
  });

  it('keeps what was typed when the signature is refused', async () => {
    const { user } = draw({}, refusedWith(422, 'signing_wrong', 'The password is not right.', 'password'));
    await user.click(await screen.findByRole('radio', { name: /^Approve/ }));
    await user.type(screen.getByLabelText(/^Comment/), 'Well done.');
    await user.type(screen.getByLabelText('Password of Mara Quill'), 'wrong');
    await user.click(command('Sign approval of C'));
    expect(await screen.findByText('The password is not right.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLTextAreaElement>(/^Comment/).value).toBe('Well done.');
  });
});

describe('a review', () => {
  const review = { signs: false, decisions: ['no objection', 'with comments', 'reject'] as Task['decisions'] };

  it('has other decisions, and no signature', async () => {
    const { user } = draw(review, { runState: 'running', documentState: 'in review' });
    await user.click(await screen.findByRole('radio', { name: /^No objection/ }));
    expect(screen.queryByLabelText('Password of Mara Quill')).toBeNull();
    await user.click(command('No objection'));
    expect(lastSent()?.body).toMatchObject({ decision: 'no objection', password: null, name: null });
  });

  it('says for whom the deputy decides, and that it was due', async () => {
    draw({ ...review, asDeputyFor: { id: 'x', name: 'Lin Sato' }, overdue: true });
    expect(await screen.findByText('You are acting for Lin Sato, who is asked to')).toBeTruthy();
    expect(screen.getByText(/was due/)).toBeTruthy();
  });
});

describe('keys and what was there before', () => {
  const review = { signs: false, decisions: ['no objection', 'with comments', 'reject'] as Task['decisions'] };

  it('figures choose a decision, Ctrl and Enter saves it, n leads to the next task', async () => {
    const nextTask = { assignmentId: '01a0000a-0000-7000-8000-00000000ffff', number: 'THR-PRO-0007' };
    const { user, router } = draw({ ...review, nextTask }, { runState: 'running', documentState: 'in review' });
    await screen.findByRole('link', { name: 'Next task: THR-PRO-0007' });
    await user.keyboard('2');
    expect(screen.getByRole<HTMLInputElement>('radio', { name: /^With comments/ }).checked).toBe(true);
    await user.keyboard('1{Control>}{Enter}{/Control}');
    await waitFor(() => expect(lastSent()?.body).toMatchObject({ decision: 'no objection' }));
    await user.keyboard('n');
    await waitFor(() => expect(router.state.location.pathname).toBe(`/tasks/${nextTask.assignmentId}`));
  });

  it('a figure that is typed in a comment is a figure', async () => {
    const { user } = draw(review);
    await user.type(await screen.findByLabelText(/^Comment/), 'Row 3');
    expect(screen.getAllByRole<HTMLInputElement>('radio').some(({ checked }) => checked)).toBe(false);
  });

  it('offers what one saw last, what was submitted and the revision before to compare with', async () => {
    const base = (kind: Task['comparedWith'][number]['kind'], versionId: string, n: number) => ({
      kind,
      versionId,
      label: 'C',
      n,
    });
    draw({
      comparedWith: [base('last seen', 'v2', 2), base('revision before', 'v0', 4), base('submitted', 'v1', 1)],
    });
    const select = await screen.findByLabelText<HTMLSelectElement>('Compared with');
    expect(select.value).toBe('v2');
    expect([...select.options].map(({ text }) => text)).toEqual([
      'What you saw last: C version 2',
      'Revision C, the one before',
      'As submitted: C version 1',
    ]);
  });

  it('marks a decision on an older version', async () => {
    const { round } = approvalTask();
    const decided = {
      id: 'a1',
      person: { id: 'p1', name: 'Lin Sato' },
      state: 'answered' as const,
      dueOn: null,
      since: null,
      overdue: false,
      awayDeputy: null,
      decision: 'no objection' as const,
      comment: '',
      decidedAt: '2026-11-20T08:00:00.000Z',
      decidedBy: { id: 'p1', name: 'Lin Sato' },
      onVersion: 1,
      signature: null,
    };
    const step = {
      id: 's1',
      n: 1,
      stage: 1,
      name: 'Review',
      kind: 'review' as const,
      meaning: null,
      rule: 'all',
      state: 'done' as const,
      dueOn: null,
      openedAt: null,
      assignments: [decided],
    };
    draw({ round: { ...round, steps: [step] } });
    expect(await screen.findByText('(on version 1, older than what you see)')).toBeTruthy();
  });
});

it('a task that somebody else has decided says so, and offers no decision', async () => {
  draw({ refusals: [{ code: 'already_decided', detail: 'Your deputy has decided it.' }] });
  expect(await screen.findByText('Your deputy has decided it.')).toBeTruthy();
  expect(screen.queryByRole('radio')).toBeNull();
  expect(screen.queryByRole('button', { name: /^Sign/ })).toBeNull();
});

it('a task that cannot be loaded shows the reason', async () => {
  renderPage(<DecidePage />, {
    [at(api.tasks.task, { assignment: '' })]: refusedWith(403, 'right_missing', 'The task is not yours.'),
  });
  expect(await screen.findByText('The task is not yours.')).toBeTruthy();
});
