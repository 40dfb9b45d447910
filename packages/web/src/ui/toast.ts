type Library = typeof import('sonner').toast;
type Kind = 'success' | 'error' | 'warning' | 'message';

/** Shows one kind of notice; what draws it is fetched for the first one, which keeps it out of the first screen. */
const show =
  <K extends Kind>(kind: K) =>
  (...notice: Parameters<Library[K]>): void =>
    void import('./Toasts.tsx').then(({ toast }) => (toast[kind] as (...given: typeof notice) => unknown)(...notice));

/** Short notices at the lower edge of the window, which go by themselves. */
export const toast = {
  success: show('success'),
  error: show('error'),
  warning: show('warning'),
  message: show('message'),
};
