import type { DocumentPage } from '@kanonos/contract';
import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { documentPage } from '../../testing/fixtures.ts';
import { renderPage } from '../../testing/renderPage.tsx';
import { NextStrip } from './NextStrip.tsx';

const next = (more: Partial<NonNullable<DocumentPage['next']>>): NonNullable<DocumentPage['next']> => ({
  kind: 'decide',
  who: ['Lin Sato'],
  step: 'Review',
  since: null,
  due: null,
  overdue: false,
  afterCommit: null,
  blockers: 0,
  mine: false,
  assignmentId: null,
  ...more,
});
const checkout = (mine: boolean) => ({
  person: { id: 'p2', name: 'Joren Adeyemi' },
  since: '2019-11-07T09:00:00Z',
  mine,
  note: '',
  saved: null,
});
const shown = (page: Partial<DocumentPage>) =>
  renderPage(<NextStrip page={documentPage({ myReading: null, view: null, ...page } as never)} />).container
    .textContent;

describe('the next step', () => {
  it('names who has the document checked out, also while others decide', () => {
    expect(shown({ next: next({}), checkout: checkout(false) })).toContain(
      'Checked out to Joren Adeyemi since 7 Nov 2019.',
    );
    expect(shown({ next: next({}), checkout: checkout(true) })).toContain('Checked out to you since 7 Nov 2019.');
  });

  it('does not say it twice where the check-out itself is awaited', () => {
    const words = shown({ next: next({ kind: 'checked out', who: ['Joren Adeyemi'] }), checkout: checkout(false) });
    expect(words).toContain('Joren Adeyemi has it checked out');
    expect(words).not.toContain('Checked out to');
  });

  it('is nothing where nobody has to act', () => {
    expect(shown({ next: null })).toBe('');
  });

  it('leads the assignee to the decision', () => {
    shown({ next: next({ mine: true, assignmentId: 'a1' }) });
    expect(screen.getByRole('link', { name: 'Decide' }).getAttribute('href')).toBe('/tasks/a1');
  });

  it('asks a reader to sign before anything else', () => {
    const page = documentPage();
    shown({ myReading: 'r1', revision: { ...page.revision, state: 'in force' }, next: next({}) });
    expect(screen.getByRole('link', { name: 'Read and sign' }).getAttribute('href')).toBe('/reading/r1');
  });
});
