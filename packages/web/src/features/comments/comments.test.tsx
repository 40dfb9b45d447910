import { api, type CommentInfo } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import type { ReactNode } from 'react';
import { describe, expect, it } from 'vitest';
import { at, lastSent, ME, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { Commenting, type Subject } from './Commenting.tsx';
import { CommentsPanel } from './CommentsPanel.tsx';

const subject: Subject = {
  documentId: 'd1',
  number: 'THR-PRO-0118',
  revision: { id: 'r1', state: 'in review' },
  versionId: 'v1',
  fileSort: 0,
  current: true,
};
const comment = (changes: Partial<CommentInfo> = {}): CommentInfo => ({
  id: 'c1',
  parentId: null,
  person: { id: 'p1', name: 'Otto Brandvik' },
  at: '2026-11-20T08:00:00.000Z',
  text: 'The limit of row 3 is missing.',
  kind: 'comment',
  label: 'C',
  version: 2,
  quote: null,
  around: null,
  mark: null,
  fileSort: 0,
  place: null,
  assignee: null,
  resolvedAt: null,
  resolvedBy: null,
  resolution: '',
  mayResolve: true,
  mayReopen: false,
  mayWithdraw: false,
  ...changes,
});
const draw = (
  comments: CommentInfo[],
  answers = {},
  about: Partial<Subject> = {},
  piece: ReactNode = <CommentsPanel />,
) =>
  renderPage(<Commenting subject={{ ...subject, ...about }}>{piece}</Commenting>, {
    [at(api.comments.list, { document: 'd1' })]: { comments, mayComment: true },
    [at(api.people.names)]: { people: [{ id: 'p2', name: 'Lin Sato', department: 'Engineering' }] },
    ...answers,
  });
const on = (endpoint: Parameters<typeof at>[0]) => at(endpoint, { document: 'd1', comment: 'c1' });

describe('writing a comment', () => {
  it('waits for words, and blocks the approval where chosen', async () => {
    const { user } = draw([], { [at(api.comments.add, { document: 'd1' })]: { id: 'c2' } });
    const write = await screen.findByRole<HTMLButtonElement>('button', { name: 'Comment' });
    expect(write.disabled).toBe(true);
    await user.type(screen.getByLabelText('Comment'), '  Wrong unit  ');
    await user.click(screen.getByRole('checkbox', { name: 'Blocks approval until resolved' }));
    await user.click(write);
    expect(lastSent()?.body).toMatchObject({ text: '  Wrong unit  ', blocking: true, revisionId: 'r1', fileSort: 0 });
    expect(screen.getByLabelText<HTMLTextAreaElement>('Comment').value).toBe('');
  });

  it('cannot block what is already decided', async () => {
    draw([], {}, { revision: { id: 'r1', state: 'approved' } });
    expect(await screen.findByLabelText('Comment')).toBeTruthy();
    expect(screen.queryByRole('checkbox', { name: /^Blocks/ })).toBeNull();
  });

  it('keeps the words when they are refused', async () => {
    const { user } = draw([], {
      [at(api.comments.add, { document: 'd1' })]: refusedWith(409, 'revision_ended', 'It is no longer in work.'),
    });
    await user.type(await screen.findByLabelText('Comment'), 'Too late');
    await user.click(screen.getByRole('button', { name: 'Comment' }));
    expect(await screen.findByText('It is no longer in work.')).toBeTruthy();
    expect(screen.getByLabelText<HTMLTextAreaElement>('Comment').value).toBe('Too late');
  });
});

describe('a thread', () => {
  it('shows who wrote what, with the answers from the first to the last', async () => {
    draw([
      comment({ id: 'a2', parentId: 'c1', text: 'Added.', at: '2026-11-22T08:00:00.000Z' }),
      comment({ id: 'a1', parentId: 'c1', text: 'I look.', at: '2026-11-21T08:00:00.000Z' }),
      comment(),
    ]);
    expect(await screen.findByText('The limit of row 3 is missing.')).toBeTruthy();
    const answers = screen.getAllByText(/^(Added|I look)\.$/).map((line) => line.textContent);
    expect(answers).toEqual(['I look.', 'Added.']);
  });

  it('is answered and resolved with words', async () => {
    const { user } = draw([comment()], { [on(api.comments.reply)]: {}, [on(api.comments.resolve)]: {} });
    await user.click(await screen.findByRole('button', { name: 'Reply' }));
    await user.type(screen.getByLabelText('Reply'), 'I look.');
    await user.click(screen.getByRole('button', { name: 'Reply' }));
    expect(lastSent()?.body).toEqual({ text: 'I look.' });
    await user.click(await screen.findByRole('button', { name: 'Resolve' }));
    await user.type(screen.getByLabelText(/^How it was resolved/), 'Row added');
    await user.click(screen.getByRole('button', { name: 'Resolve' }));
    expect(lastSent()?.body).toEqual({ resolution: 'Row added' });
  });

  it('is assigned to a person, or to nobody', async () => {
    const { user } = draw([comment({ assignee: { id: 'p1', name: 'Otto Brandvik' } })], {
      [on(api.comments.assign)]: {},
    });
    await user.click(await screen.findByRole('button', { name: 'Assign' }));
    await user.click(screen.getByRole('button', { name: 'Remove Otto Brandvik' }));
    await user.click(screen.getByRole('button', { name: /nobody/i }));
    expect(lastSent()?.body).toEqual({ personId: null });
  });

  it('offers only what one may do', async () => {
    draw([comment({ mayResolve: false })]);
    expect(await screen.findByRole('button', { name: 'Reply' })).toBeTruthy();
    for (const name of ['Resolve', 'Assign', 'Reopen', 'Delete'])
      expect(screen.queryByRole('button', { name })).toBeNull();
  });

  it('that is resolved shows by whom and how, and can be reopened with a reason', async () => {
    const resolved = comment({
      resolvedAt: '2026-11-23T08:00:00.000Z',
      resolvedBy: { id: ME.id, name: ME.name },
      resolution: 'Row added',
      mayResolve: false,
      mayReopen: true,
    });
    const { user } = draw([resolved], { [on(api.comments.reopen)]: {} });
    expect(await screen.findByText(/Mara Quill: “Row added”/)).toBeTruthy();
    await user.click(screen.getByRole('button', { name: 'Reopen' }));
    await user.type(screen.getByLabelText('Reason for reopening'), 'Still wrong');
    await user.click(screen.getByRole('button', { name: 'Reopen' }));
    expect(lastSent()?.body).toEqual({ reason: 'Still wrong' });
  });
});
