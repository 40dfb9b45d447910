import type { ReactNode } from 'react';
import { Actions, CommandButton, Dialog } from './controls.tsx';
import { besidesMeanwhile, Meanwhile, type Told } from './Meanwhile.tsx';
import { Refusals } from './states.tsx';
import { UploadScope } from './uploading.tsx';
import { wording } from './wording.ts';

/**
 * A dialog for one command with its form: its effect, its fields, a refusal, the command and the way out. The command
 * waits for files that are still being uploaded. `columns` lays the fields out in two columns; a field that wants the whole width says
 * `col-span-2`.
 */
export const FormDialog = ({
  title,
  about,
  of,
  words,
  command,
  button,
  leave = wording.cancel,
  danger,
  ready = true,
  columns,
  wide,
  more,
  onSubmit,
  onClose,
  children,
}: {
  title: string;
  about?: ReactNode;
  /** The draft of something that others may change, too; what they saved meanwhile is shown, and must be resolved before the command. */
  of?: Told;
  /** The label of a place of the draft. */
  words?: (place: string) => string;
  command: { isPending: boolean; error: Error | null };
  button: string;
  leave?: string;
  danger?: boolean;
  ready?: boolean;
  columns?: boolean;
  wide?: boolean;
  /** Further buttons, between the way out and the command. */
  more?: ReactNode;
  onSubmit: () => void;
  onClose: () => void;
  children?: ReactNode;
}) => (
  <Dialog open onClose={onClose} title={title} wide={wide ?? columns ?? false}>
    {about}
    {of && <Meanwhile of={of} {...(words ? { words } : {})} />}
    <UploadScope>
      {(uploading) => (
        <form
          className="flex flex-col gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            onSubmit();
          }}
        >
          {columns ? (
            <div className="grid grid-cols-2 gap-3 max-md:grid-cols-1 max-md:[&>.col-span-2]:col-span-1">
              {children}
            </div>
          ) : (
            children
          )}
          <Refusals error={besidesMeanwhile(command.error, of)} />
          <Actions>
            <button type="button" className="btn" onClick={onClose}>
              {leave}
            </button>
            {more}
            <CommandButton
              busy={command.isPending}
              disabled={!ready || uploading || Boolean(of?.meanwhile)}
              tone={danger ? 'danger' : 'pri'}
            >
              {button}
            </CommandButton>
          </Actions>
        </form>
      )}
    </UploadScope>
  </Dialog>
);
