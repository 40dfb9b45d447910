import { api, type Task } from '@kanonos/contract';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { approvalTask, original, version } from '../../testing/fixtures.ts';
import { at, lastSent, renderPage } from '../../testing/renderPage.tsx';
import { SeveralPage } from './SeveralPage.tsx';

const opened = [{ id: 'f1', name: 'grip-overhaul.docx', opened: true }];
const task = (id: string, number: string, changes: Partial<Task> = {}): Task =>
  approvalTask({
    assignmentId: id,
    document: { id, number, type: 'Procedure' },
    version: version([original({ show: 'none' })]),
    files: opened,
    digest: id.repeat(4),
    ...changes,
  });
const draw = (tasks: Task[], answer: object = { decided: 2, signed: 2, refused: [] }) =>
  renderPage(
    <SeveralPage />,
    {
      ...Object.fromEntries(tasks.map((one) => [at(api.tasks.task, { assignment: one.assignmentId }), one] as const)),
      [at(api.tasks.decideSeveral)]: answer,
    },
    `/tasks/several?of=${tasks.map((one) => one.assignmentId).join(',')}`,
  );
const button = (name: string | RegExp) => screen.getByRole<HTMLButtonElement>('button', { name });
const strip = () => within(screen.getByRole('navigation', { name: 'Tasks to go through' }));

describe('several tasks', () => {
  it('are gone through before one password signs them, each with its own record', async () => {
    const { user, router } = draw([task('a1', 'THR-PRO-0001'), task('b2', 'THR-PRO-0002')]);
    expect(await screen.findByText('1 task is left to look at.')).toBeTruthy();
    expect(button('Sign 2 approvals').disabled).toBe(true);
    expect(screen.queryByLabelText('Password of Mara Quill')).toBeNull();
    await user.click(button('Next task'));
    await user.type(screen.getByLabelText(/^Comment on THR-PRO-0002/), 'Well done');
    await user.type(screen.getByLabelText('Password of Mara Quill'), 'not a real one');
    await user.click(button('Sign 2 approvals'));
    expect(lastSent()?.body).toEqual({
      decisions: [
        { assignment: 'a1', decision: 'approve', comment: '', digest: 'a1a1a1a1', version: 2 },
        { assignment: 'b2', decision: 'approve', comment: 'Well done', digest: 'b2b2b2b2', version: 2 },
      ],
      name: null,
      password: 'not a real one',
    });
    await waitFor(() => expect(router.state.location.pathname).toBe('/'));
  });

  it('wait for files that were not opened', async () => {
    const { user } = draw([
      task('a1', 'THR-PRO-0001'),
      task('b2', 'THR-PRO-0002', { files: [...opened, { id: 'f2', name: 'plate.pdf', opened: false }] }),
    ]);
    await user.click(await screen.findByRole('button', { name: 'Next task' }));
    expect(strip().getByText('1 file to open')).toBeTruthy();
    expect(button('Sign 2 approvals').disabled).toBe(true);
  });

  it('that are no approvals need no password', async () => {
    const review = {
      stepKind: 'review',
      decisions: ['no objection', 'with comments', 'reject'],
      signs: false,
    } as const;
    const more = { ...review, decisions: [...review.decisions] };
    const { user } = draw([task('a1', 'THR-PRO-0001', more), task('b2', 'THR-PRO-0002', more)]);
    await user.click(await screen.findByRole('button', { name: 'Next task' }));
    await user.click(button('Decide 2 tasks'));
    expect(lastSent()?.body).toMatchObject({ password: null, decisions: [{ decision: 'no objection' }, {}] });
  });

  it('keep out what must be decided on its own, and lead to it', async () => {
    draw([task('a1', 'THR-PRO-0001'), task('b2', 'THR-PRO-0002', { decidedAlone: true })]);
    expect(await screen.findByText(/^Decide it on its own: Documents of this type/)).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Open the task' }).getAttribute('href')).toBe('/tasks/b2');
    expect(button('Sign 1 approval')).toBeTruthy();
  });

  it('that are refused stay, with the reason', async () => {
    const { user } = draw([task('a1', 'THR-PRO-0001'), task('b2', 'THR-PRO-0002')], {
      decided: 1,
      signed: 1,
      refused: [{ assignment: 'b2', reasons: ['The record has changed.'] }],
    });
    await user.click(await screen.findByRole('button', { name: 'Next task' }));
    await user.type(screen.getByLabelText('Password of Mara Quill'), 'secret');
    await user.click(button('Sign 2 approvals'));
    expect(await strip().findByText('The record has changed.')).toBeTruthy();
    await waitFor(() => expect(strip().queryByText(/THR-PRO-0001/)).toBeNull());
  });

  it('are left out one by one; without any, the Desk is the way', async () => {
    const { user } = draw([task('a1', 'THR-PRO-0001'), task('b2', 'THR-PRO-0002')]);
    await user.click(await screen.findByRole('button', { name: 'Leave out THR-PRO-0001' }));
    await waitFor(() => expect(strip().queryByText(/THR-PRO-0001/)).toBeNull());
    expect(button('Sign 1 approval').disabled).toBe(true);
  });
});
