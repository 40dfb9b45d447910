import { api } from '@kanonos/contract';
import { render, screen } from '@testing-library/react';
import { type ReactNode, useState } from 'react';
import { describe, expect, it, vi } from 'vitest';
import { Problem } from '../app/client.ts';
import { SessionContext } from '../app/session.tsx';
import { useCommand } from '../app/useCommand.ts';
import { ME, refusedWith, renderPage, sent } from '../testing/renderPage.tsx';
import { Segments, TextField } from './controls.tsx';
import { FormDialog } from './FormDialog.tsx';
import { PeoplePicker } from './PersonPicker.tsx';
import { ReasonField } from './ReasonField.tsx';
import { RightTicks } from './RightTicks.tsx';
import { SignBox } from './SignBox.tsx';
import { UnitPicker } from './UnitPicker.tsx';
import { useUploading } from './uploading.tsx';

const OnItsWay = ({ uploading }: { uploading: boolean }) => {
  useUploading(uploading);
  return null;
};

const Remark = ({ ready = true, uploading = false }: { ready?: boolean; uploading?: boolean }) => {
  const command = useCommand(api.numbers.reserve);
  return (
    <FormDialog
      title="Reserve numbers"
      command={command}
      button="Reserve"
      ready={ready}
      onSubmit={() => command.mutate({})}
      onClose={() => {}}
    >
      <OnItsWay uploading={uploading} />
    </FormDialog>
  );
};

const People = () => {
  const [people, setPeople] = useState([{ id: '1', name: 'Joren Adeyemi' }]);
  return <PeoplePicker label="Assignees" value={people} onChange={setPeople} />;
};

describe('a field', () => {
  it('is found by its label, shows its hint, or its error instead', () => {
    const { rerender } = renderPage(<TextField label="Title" hint="As printed" optional />);
    const field = screen.getByLabelText(/^Title/);
    expect(screen.getByText('(optional)')).toBeTruthy();
    expect(document.getElementById(field.getAttribute('aria-describedby') ?? '')?.textContent).toBe('As printed');
    expect(field.getAttribute('aria-invalid')).toBe('false');
    rerender(<TextField label="Title" hint="As printed" error="Enter a title." />);
    expect(screen.getByLabelText('Title').getAttribute('aria-invalid')).toBe('true');
    expect(screen.queryByText('As printed')).toBeNull();
    expect(screen.getByText('Enter a title.')).toBeTruthy();
  });

  it('for a reason is required, as lines or as one line', () => {
    renderPage(
      <>
        <ReasonField value="" onChange={() => {}} />
        <ReasonField oneLine value="" onChange={() => {}} />
      </>,
    );
    const [lines, line] = screen.getAllByLabelText<HTMLInputElement>('Reason');
    expect([lines?.tagName, line?.tagName]).toEqual(['TEXTAREA', 'INPUT']);
    expect([lines?.required, line?.required]).toEqual([true, true]);
  });
});

it('segments are buttons of which one is pressed', async () => {
  const chosen = vi.fn();
  const options = [
    { value: 'rows', text: 'Rows' },
    { value: 'pictures', text: 'Pictures' },
  ] as const;
  const { user } = renderPage(<Segments label="View" value="rows" options={options} onChange={chosen} />);
  expect(screen.getByRole('button', { pressed: true }).textContent).toBe('Rows');
  await user.click(screen.getByRole('button', { name: 'Pictures' }));
  expect(chosen).toHaveBeenCalledWith('pictures');
});

/** Draws a piece as a signed-in person sees it, also when it is drawn again. */
const signedIn = {
  wrapper: ({ children }: { children: ReactNode }) => <SessionContext value={ME}>{children}</SessionContext>,
};

it('the first signature of a period asks for name and password, later ones for the password', () => {
  const { rerender } = render(<SignBox asksForName value={{ name: '', password: '' }} onChange={() => {}} />, signedIn);
  expect(screen.getByLabelText('Sign-in name')).toBeTruthy();
  rerender(<SignBox asksForName={false} value={{ name: '', password: '' }} onChange={() => {}} />);
  expect(screen.queryByLabelText('Sign-in name')).toBeNull();
  expect(screen.getByLabelText<HTMLInputElement>('Password of Mara Quill').type).toBe('password');
});

it('a wrong password leads back to its field; another refusal does not', () => {
  const wrong = (code: string) => new Problem(refusedWith(403, code, 'Nothing was signed.').refusal as never);
  const box = (error: Error | null) => (
    <>
      <SignBox asksForName={false} value={{ name: '', password: 'mistyped' }} onChange={() => {}} error={error} />
      <button type="button">Sign</button>
    </>
  );
  const { rerender } = render(box(null), signedIn);
  screen.getByRole('button', { name: 'Sign' }).focus();
  rerender(box(wrong('content_changed')));
  expect(document.activeElement?.textContent).toBe('Sign');
  rerender(box(wrong('signing_wrong')));
  const field = screen.getByLabelText<HTMLInputElement>('Password of Mara Quill');
  expect(document.activeElement).toBe(field);
  expect([field.selectionStart, field.selectionEnd]).toEqual([0, 'mistyped'.length]);
});

it('units stay pressed, with the whole organisation first', async () => {
  const units = vi.fn();
  const everyone = vi.fn();
  const { user } = renderPage(
    <UnitPicker
      label="Readers"
      units={[
        { id: 'a', name: 'Maintenance' },
        { id: 'b', name: 'Operations' },
      ]}
      value={['a']}
      onChange={units}
      everyone={{ on: false, onChange: everyone }}
    />,
  );
  await user.click(screen.getByRole('button', { name: 'Operations' }));
  expect(units).toHaveBeenLastCalledWith(['a', 'b']);
  await user.click(screen.getByRole('button', { name: 'Maintenance' }));
  expect(units).toHaveBeenLastCalledWith([]);
  await user.click(screen.getByRole('button', { name: 'everyone' }));
  expect(everyone).toHaveBeenCalledWith(true);
});

it('people are picked by name and taken out again', async () => {
  const { user } = renderPage(<People />, {
    'GET /api/people/names': {
      people: [
        { id: '1', name: 'Joren Adeyemi', department: 'Engineering' },
        { id: '2', name: 'Lin Sato', department: 'Engineering' },
      ],
    },
  });
  await user.click(screen.getByRole('combobox', { name: 'Assignees' }));
  expect(screen.queryByRole('option', { name: /Joren/ })).toBeNull();
  await user.click(await screen.findByRole('option', { name: /Lin Sato/ }));
  expect(screen.getByRole('button', { name: 'Remove Lin Sato' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Remove Joren Adeyemi' }));
  expect(screen.queryByText('Joren Adeyemi')).toBeNull();
});

describe('a dialog for a command', () => {
  it('sends the command and shows a refusal in words', async () => {
    const place = `${api.numbers.reserve.method} ${api.numbers.reserve.path}`;
    const { user } = renderPage(<Remark />, {
      [place]: refusedWith(409, 'type_retired', 'This type is retired.'),
    });
    await user.click(screen.getByRole('button', { name: 'Reserve' }));
    expect(await screen.findByText('This type is retired.')).toBeTruthy();
    expect(sent.map(({ method, path }) => `${method} ${path}`)).toContain(place);
  });

  it('waits until it is ready, and for files that are on their way', () => {
    for (const [remark, disabled] of [
      [<Remark key="not ready" ready={false} />, true],
      [<Remark key="uploading" uploading />, true],
      [<Remark key="ready" />, false],
    ] as const) {
      const { unmount } = renderPage(remark);
      expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Reserve' }).disabled).toBe(disabled);
      unmount();
    }
  });
});

it('a right that is ticked takes in those below it', async () => {
  const changed = vi.fn();
  const { user } = renderPage(<RightTicks rights={['see']} onChange={changed} />);
  await user.click(screen.getByRole('checkbox', { name: /^read$/ }));
  expect(changed.mock.lastCall?.[0]).toEqual(['read']);
});
