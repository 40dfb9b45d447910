/** A sign-in name from a name: `Ada Brook` gives `ada.brook`. */
export const signInNameFrom = (name: string): string =>
  name
    .toLowerCase()
    .normalize('NFKD')
    .replace(/[^a-z0-9 .-]/g, '')
    .trim()
    .replace(/ +/g, '.');
