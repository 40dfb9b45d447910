import { render, screen } from '@testing-library/react';
import { beforeEach, describe, expect, it } from 'vitest';
import { useLastChosen } from './useLastChosen.ts';

const Shown = ({ all, named }: { all: string[]; named: string | null }) => (
  <output>{useLastChosen('shelf', all, (one) => one, named) ?? 'none'}</output>
);
const shown = (all: string[], named: string | null = null) => {
  const page = render(<Shown all={all} named={named} />);
  const text = screen.getByRole('status').textContent;
  page.unmount();
  return text;
};

describe('the open item of a list', () => {
  beforeEach(() => localStorage.clear());

  it('is the first, until one was open', () => {
    expect(shown(['a', 'b', 'c'])).toBe('a');
    expect(shown(['a', 'b', 'c'], 'c')).toBe('c');
    expect(shown(['a', 'b', 'c'])).toBe('c');
  });

  it('is the first again when the last one no longer exists, and none of an empty list', () => {
    shown(['a', 'b'], 'b');
    expect(shown(['a'])).toBe('a');
    expect(shown([])).toBe('none');
  });

  it('is none where the address names one that is not there', () => {
    expect(shown(['a', 'b'], 'x')).toBe('none');
  });
});
