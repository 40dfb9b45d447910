import { api } from '@kanonos/contract';
import { screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { expect, it } from 'vitest';
import { documentPage } from '../../../testing/fixtures.ts';
import { at, lastSent, renderPage } from '../../../testing/renderPage.tsx';
import { SignOutsideDialog } from './SignOutsideDialog.tsx';
import { StartRoundDialog } from './StartRoundDialog.tsx';

const PEOPLE = at(api.people.names, {
  people: [{ id: '00000000-0000-7000-8000-000000000001', name: 'Mara Quill', department: 'Rope' }],
});
