import { DialogBackdrop, DialogPanel, DialogTitle, Dialog as Headless } from '@headlessui/react';
import {
  type InputHTMLAttributes,
  type ReactNode,
  type SelectHTMLAttributes,
  type TextareaHTMLAttributes,
  useEffect,
  useId,
  useRef,
} from 'react';
import { wording } from './wording.ts';

/** A caption above a control, with a hint or what is wrong below it. */
export const Labelled = ({
  label,
  hint,
  error,
  children,
  optional,
  wide = false,
}: {
  label: string;
  hint?: ReactNode;
  error?: string | undefined;
  optional?: boolean;
  wide?: boolean;
  children: (props: { id: string; 'aria-describedby': string; 'aria-invalid': boolean }) => ReactNode;
}) => {
  const id = useId();
  return (
    <div className={wide ? 'col-span-2 min-w-0' : 'min-w-0'}>
      <label htmlFor={id} className="cap mb-1 block">
        {label} {optional && <span className="font-normal tracking-normal normal-case">{wording.optional}</span>}
      </label>
      {children({ id, 'aria-describedby': `${id}-about`, 'aria-invalid': Boolean(error) })}
      <p id={`${id}-about`} className={`mt-1 text-[11.5px] empty:hidden ${error ? 'text-vermilion' : 'text-ink-3'}`}>
        {error ?? hint}
      </p>
    </div>
  );
};

type Extra = {
  label: string;
  hint?: ReactNode;
  error?: string | undefined;
  optional?: boolean;
  /** As wide as both columns of a form of two. */
  wide?: boolean;
  /** Told the text that is in the field now, with every key. */
  onChange?: (value: string) => void;
};
/** What a control of the browser itself takes, but for the change, of which these fields tell the text only. */
type Native<P> = Omit<P, 'onChange'>;

/** What is said around a control, and what the control itself takes. */
const apart = <P extends Omit<Extra, 'onChange'>>({
  label,
  hint,
  error,
  optional = false,
  wide = false,
  ...props
}: P) => [{ label, hint, error, optional, wide }, props] as const;

export const TextField = ({ onChange, ...given }: Extra & Native<InputHTMLAttributes<HTMLInputElement>>) => {
  const [about, props] = apart(given);
  return (
    <Labelled {...about}>
      {(a11y) => <input className="inp" {...a11y} {...props} onChange={(event) => onChange?.(event.target.value)} />}
    </Labelled>
  );
};
/** A password, shown by no browser while it is typed; managers of passwords know by `autoComplete` which it is. */
export const PasswordField = (
  props: Extra & Native<InputHTMLAttributes<HTMLInputElement>> & { autoComplete: 'current-password' | 'new-password' },
) => <TextField type="password" required {...props} />;
export const TextArea = ({ onChange, ...given }: Extra & Native<TextareaHTMLAttributes<HTMLTextAreaElement>>) => {
  const [about, props] = apart(given);
  return (
    <Labelled {...about}>
      {(a11y) => (
        <textarea className="inp" rows={3} {...a11y} {...props} onChange={(event) => onChange?.(event.target.value)} />
      )}
    </Labelled>
  );
};
/** A choice from a list: `empty` is what stands for none, `options` what there is; options of another form are children. */
export const Select = ({
  onChange,
  empty,
  options = [],
  children,
  ...given
}: Extra &
  Native<SelectHTMLAttributes<HTMLSelectElement>> & {
    empty?: string;
    options?: readonly { value: string; text: string }[];
  }) => {
  const [about, props] = apart(given);
  return (
    <Labelled {...about}>
      {(a11y) => (
        <select className="inp" {...a11y} {...props} onChange={(event) => onChange?.(event.target.value)}>
          {empty !== undefined && <option value="">{empty}</option>}
          {options.map(({ value, text }) => (
            <option key={value} value={value}>
              {text}
            </option>
          ))}
          {children}
        </select>
      )}
    </Labelled>
  );
};

/** A choice in the bar of a page, where its label is read out and not shown; `everything` is the choice of none. */
export const BarSelect = ({
  label,
  value,
  onChange,
  options,
  everything,
}: {
  label: string;
  value: string;
  onChange: (value: string) => void;
  options: readonly { value: string; text: string }[];
  everything?: string;
}) => (
  <select aria-label={label} className="inp !w-40" value={value} onChange={(event) => onChange(event.target.value)}>
    {everything !== undefined && <option value="">{everything}</option>}
    {options.map((option) => (
      <option key={option.value} value={option.value}>
        {option.text}
      </option>
    ))}
  </select>
);

/** One of a few exclusive views, as joined buttons. */
export const Segments = <T extends string>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly { value: T; text: string }[];
  onChange: (value: T) => void;
}) => (
  <fieldset className="inline-flex w-fit max-w-full min-w-0 overflow-x-auto overflow-y-hidden rounded-xs border border-line">
    <legend className="sr-only">{label}</legend>
    {options.map((option) => (
      <button
        key={option.value}
        type="button"
        aria-pressed={option.value === value}
        onClick={() => onChange(option.value)}
        className={`border-r border-line px-2 py-[3px] text-[12px] font-[550] whitespace-nowrap last:border-0 ${option.value === value ? 'bg-ink text-white' : 'bg-sheet text-ink-2'}`}
      >
        {option.text}
      </button>
    ))}
  </fieldset>
);

/** A choice with a sentence about what follows from it. */
export const Choice = ({
  name,
  checked,
  onChange,
  title,
  about,
}: {
  name: string;
  checked: boolean;
  onChange: () => void;
  title: string;
  about: string;
}) => (
  <label
    className={`mt-1.5 grid cursor-pointer grid-cols-[18px_1fr] gap-2 rounded-xs border px-2.5 py-1.5 ${checked ? 'border-petrol bg-petrol-tint shadow-[inset_0_0_0_1px_var(--color-petrol)]' : 'border-line'}`}
  >
    <input type="radio" name={name} checked={checked} onChange={onChange} className="mt-0.5 accent-petrol" />
    <span>
      <b className="font-semibold">{title}</b>
      <span className="block text-[12px] text-ink-2">{about}</span>
    </span>
  </label>
);

/**
 * A dialog for one command: what it does, what it needs, the command and the way out. Escape leaves it; a press beside it does too, until
 * something was typed in it.
 */
export const Dialog = ({
  open,
  onClose,
  title,
  children,
  wide,
}: {
  open: boolean;
  onClose: () => void;
  title: string;
  children: ReactNode;
  wide?: boolean;
}) => {
  const isTouched = useRef(false);
  const isEscape = useRef(false);
  useEffect(() => {
    const note = (event: Event) => {
      isEscape.current = event instanceof KeyboardEvent && event.key === 'Escape';
    };
    const kinds = ['keydown', 'pointerdown'];
    for (const kind of kinds) window.addEventListener(kind, note, true);
    return () => {
      for (const kind of kinds) window.removeEventListener(kind, note, true);
    };
  }, []);
  const touch = () => {
    isTouched.current = true;
  };
  const leave = () => {
    if (isTouched.current && !isEscape.current) return;
    isEscape.current = false;
    onClose();
  };
  return (
    <Headless open={open} onClose={leave} className="fixed inset-0 z-40">
      <DialogBackdrop className="fixed inset-0 bg-ink/40" />
      <div className="fixed inset-0 grid place-items-center overflow-y-auto p-4 max-md:items-start max-md:p-2">
        <DialogPanel
          className={`w-full ${wide ? 'max-w-2xl' : 'max-w-lg'} border-[1.8px] border-ink bg-sheet`}
          onInput={touch}
          onDrop={touch}
        >
          <DialogTitle className="border-b border-line bg-film-2 px-4 py-2.5 text-[14px] font-[650]">
            {title}
          </DialogTitle>
          <div className="flex flex-col gap-3 p-4">{children}</div>
        </DialogPanel>
      </div>
    </Headless>
  );
};

export const Actions = ({ children }: { children: ReactNode }) => (
  <div className="mt-1 flex justify-end gap-2">{children}</div>
);

/** Leaves a dialog that only shows something. */
export const CloseButton = ({ onClose }: { onClose: () => void }) => (
  <Actions>
    <button type="button" className="btn" onClick={onClose}>
      {wording.close}
    </button>
  </Actions>
);

/** A button that shows that its command is running. */
export const CommandButton = ({
  busy,
  children,
  tone = 'pri',
  ...props
}: { busy: boolean; tone?: 'pri' | 'danger' | 'plain' } & React.ButtonHTMLAttributes<HTMLButtonElement>) => (
  <button
    type="submit"
    {...props}
    disabled={busy || props.disabled}
    aria-busy={busy}
    className={`btn ${tone === 'pri' ? 'btn-pri' : tone === 'danger' ? 'btn-danger' : ''} ${props.className ?? ''}`}
  >
    {busy ? wording.working : children}
  </button>
);

export const Key = ({ children }: { children: ReactNode }) => (
  <kbd className="rounded-xs border border-current px-1.5 font-mono text-[10px]">{children}</kbd>
);
