import { screen } from '@testing-library/react';
import { useState } from 'react';
import { describe, expect, it } from 'vitest';
import { renderPage } from '../testing/renderPage.tsx';
import { DateField } from './DateField.tsx';

const Held = ({ first = '', min }: { first?: string; min?: string }) => {
  const [day, setDay] = useState(first);
  return (
    <form>
      <DateField label="Due" value={day} onChange={setDay} min={min} />
      <output>{day}</output>
      <button type="button" onClick={() => setDay('2027-01-04')}>
        Set from elsewhere
      </button>
    </form>
  );
};
const field = () => screen.getByLabelText<HTMLInputElement>('Due');
const day = () => screen.getByRole('status').textContent;

describe('a field for a day', () => {
  it('shows the day in words, never in figures', () => {
    renderPage(<Held first="2026-11-28" />);
    expect(field().value).toBe('28 Nov 2026');
  });

  it.each([
    ['3 dec', '2026-12-03', '3 Dec 2026'],
    ['+10wd', '2026-12-14', '14 Dec 2026'],
    ['end of month', '2026-11-30', '30 Nov 2026'],
    ['2027-02-01', '2027-02-01', '1 Feb 2027'],
  ])('takes %s', async (typed, taken, shown) => {
    const { user } = renderPage(<Held />);
    await user.type(field(), typed);
    expect(day()).toBe(taken);
    await user.tab();
    expect(field().value).toBe(shown);
    expect(field().checkValidity()).toBe(true);
  });

  it('explains what would be right, keeps the typed text, and blocks the form', async () => {
    const { user } = renderPage(<Held first="2026-11-30" />);
    await user.clear(field());
    await user.type(field(), '03/12/2026');
    await user.tab();
    expect(field().value).toBe('03/12/2026');
    expect(screen.getByText(/Enter a date such as 3 Dec 2026/)).toBeTruthy();
    expect(field().checkValidity()).toBe(false);
    await user.clear(field());
    await user.type(field(), '3 Dec 2026');
    expect(screen.queryByText(/Enter a date such as/)).toBeNull();
    expect(day()).toBe('2026-12-03');
  });

  it('refuses a day before the first one', async () => {
    const { user } = renderPage(<Held min="2026-12-01" />);
    await user.type(field(), 'today');
    await user.tab();
    expect(screen.getByText('Enter a date from 1 Dec 2026 on.')).toBeTruthy();
    expect(day()).toBe('');
  });

  it('can be emptied, and shows what is set from elsewhere', async () => {
    const { user } = renderPage(<Held first="2026-11-28" />);
    await user.clear(field());
    expect(day()).toBe('');
    await user.click(screen.getByRole('button', { name: 'Set from elsewhere' }));
    expect(field().value).toBe('4 Jan 2027');
  });

  it('is picked from a calendar by keys, which shades days without work', async () => {
    const { user } = renderPage(<Held first="2026-12-03" />);
    await user.click(screen.getByRole('button', { name: 'Open calendar' }));
    const saturday = await screen.findByRole('button', { name: 'Saturday, 5 December 2026' }, { timeout: 20_000 });
    const holiday = screen.getByRole('button', { name: 'Tuesday, 8 December 2026' });
    expect(saturday.closest('td')?.className).toContain('bg-film-2');
    expect(holiday.closest('td')?.className).toContain('text-vermilion');
    screen.getByRole('button', { name: /^Thursday, 3 December 2026/ }).focus();
    await user.keyboard('{ArrowRight}{Enter}');
    expect(day()).toBe('2026-12-04');
    expect(field().value).toBe('4 Dec 2026');
  });
});
