import { api, type ReadingTask } from '@kanonos/contract';
import { screen, waitFor } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { readingTask } from '../../testing/fixtures.ts';
import { at, lastSent, refusedWith, renderPage } from '../../testing/renderPage.tsx';
import { ReadAndSignPage } from './ReadAndSignPage.tsx';

const draw = (changes: Partial<ReadingTask> = {}, answer: unknown = {}) => {
  const task = readingTask(changes);
  return renderPage(<ReadAndSignPage />, {
    [at(api.reading.task, { id: '' })]: task,
    [at(api.reading.sign, { id: task.id })]: answer,
  });
};
const sign = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Sign: read and understood' });

describe('reading and signing', () => {
  it('takes a password and a remark, and sends the digest of what was shown', async () => {
    const { user, router } = draw();
    await user.type(await screen.findByLabelText('Password of Mara Quill'), 'not a real one');
    await user.type(screen.getByLabelText(/^Remark to Otto Brandvik/), 'Step 4 is unclear.');
    await user.click(sign());
    expect(lastSent()?.body).toEqual({
      name: null,
      password: 'not a real one',
      digest: readingTask().digest,
      remark: 'Step 4 is unclear.',
    });
    await waitFor(() => expect(router.state.location.pathname).toBe('/'));
  });

  it('waits for a password, and until every file was opened', async () => {
    const { user, unmount } = draw();
    expect((await screen.findByRole<HTMLButtonElement>('button', { name: /^Sign/ })).disabled).toBe(true);
    await user.type(screen.getByLabelText('Password of Mara Quill'), 'x');
    expect(sign().disabled).toBe(false);
    unmount();
    const next = draw({ files: [{ id: 'f1', name: 'grip-overhaul.docx', opened: false }] });
    await next.user.type(await screen.findByLabelText('Password of Mara Quill'), 'x');
    expect(sign().disabled).toBe(true);
    expect(screen.getByText(/Your signature covers this file/)).toBeTruthy();
  });

  it('says what changed since one signed last', async () => {
    draw({
      policy: 'read the changes',
      lastSigned: { label: 'B', at: '2025-03-10T08:00:00.000Z' },
      changes: [{ label: 'Slip-force limit', before: '12 kN', after: '14 kN' }],
    });
    expect(await screen.findByRole('heading', { name: 'Read the changes and sign' })).toBeTruthy();
    expect(screen.getByText(/^What changed since B, which you signed on 10 Mar 2025/)).toBeTruthy();
    expect(screen.getByText('12 kN').tagName).toBe('DEL');
  });

  it('says that it was due, and is new to somebody who joined', async () => {
    draw({ state: 'overdue', newJoiner: true });
    expect(await screen.findByText(/was due/)).toBeTruthy();
    expect(screen.getByText(/new to you/)).toBeTruthy();
  });

  it('shows the signature that was given, and asks for none', async () => {
    draw({
      maySign: false,
      remark: 'Step 4 is unclear.',
      signature: {
        id: 's1',
        printedName: 'Mara Quill',
        meaning: 'read and understood',
        at: '2026-11-27T09:00:00.000Z',
        zone: 'Europe/Vienna',
        forPerson: null,
        digest: 'd2'.repeat(32),
        state: 'intact',
        checkedOn: null,
        voidReason: null,
      },
    });
    expect(await screen.findByText('Your remark: “Step 4 is unclear.”')).toBeTruthy();
    expect(screen.getByText('Mara Quill')).toBeTruthy();
    expect(screen.queryByLabelText(/^Password/)).toBeNull();
  });

  it('says why no signature is needed', async () => {
    draw({ maySign: false, refusals: [{ code: 'reading_carried', detail: 'Your signature under B still counts.' }] });
    expect(await screen.findByText('Your signature under B still counts.')).toBeTruthy();
    expect(screen.queryByRole('button', { name: /^Sign/ })).toBeNull();
  });

  it('shows a refusal in words', async () => {
    const { user } = draw({}, refusedWith(409, 'content_changed', 'The content has changed since you opened it.'));
    await user.type(await screen.findByLabelText('Password of Mara Quill'), 'x');
    await user.click(sign());
    expect(await screen.findByText('The content has changed since you opened it.')).toBeTruthy();
  });
});
