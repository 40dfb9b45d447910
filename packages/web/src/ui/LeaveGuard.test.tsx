import { cleanup, render, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { createMemoryRouter, Link, RouterProvider } from 'react-router';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { LeaveGuard } from './LeaveGuard.tsx';

afterEach(cleanup);

const draw = (isDirty: boolean, keep?: () => Promise<boolean>) => {
  const router = createMemoryRouter([
    {
      path: '/',
      element: (
        <>
          <LeaveGuard isDirtyNow={() => isDirty} {...(keep ? { keep } : {})} />
          <Link to="/there">away</Link>
        </>
      ),
    },
    { path: '/there', element: <p>there</p> },
  ]);
  render(<RouterProvider router={router} />);
  return userEvent.setup();
};
const away = () => screen.getByRole('link', { name: 'away' });

describe('leaving a page', () => {
  it('is not held up where nothing is unsaved', async () => {
    const user = draw(false);
    await user.click(away());
    expect(await screen.findByText('there')).toBeTruthy();
  });

  it('asks where changes would be lost', async () => {
    const user = draw(true);
    await user.click(away());
    await user.click(await screen.findByRole('button', { name: 'Stay on page' }));
    expect(away()).toBeTruthy();
    await user.click(away());
    await user.click(await screen.findByRole('button', { name: 'Leave page' }));
    expect(await screen.findByText('there')).toBeTruthy();
  });

  it('waits until they are kept, and asks only where that fails', async () => {
    let done: (isKept: boolean) => void = () => {};
    const keep = vi.fn(() => new Promise<boolean>((resolve) => (done = resolve)));
    const user = draw(true, keep);
    await user.click(away());
    expect(keep).toHaveBeenCalledTimes(1);
    expect(screen.queryByText('there')).toBeNull();
    expect(screen.queryByRole('dialog')).toBeNull();
    done(false);
    await user.click(await screen.findByRole('button', { name: 'Stay on page' }));
    await user.click(away());
    done(true);
    expect(await screen.findByText('there')).toBeTruthy();
  });
});
