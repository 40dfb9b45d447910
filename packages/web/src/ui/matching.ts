/** Whether a name contains every word that was typed; everything matches where nothing is typed. */
export const matches = (name: string, typed: string): boolean =>
  typed
    .toLowerCase()
    .split(/\s+/)
    .filter(Boolean)
    .every((word) => name.toLowerCase().includes(word));
