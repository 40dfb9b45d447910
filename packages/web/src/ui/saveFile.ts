const KEPT_MS = 60_000;

/** Hands something that was made in the browser to the person as a file. */
export const saveFile = (name: string, content: BlobPart | BlobPart[], type: string): void => {
  const address = URL.createObjectURL(new Blob(Array.isArray(content) ? content : [content], { type }));
  const link = Object.assign(document.createElement('a'), { href: address, download: name });
  link.click();
  setTimeout(() => URL.revokeObjectURL(address), KEPT_MS);
};
