import type { DocumentPage } from '@kanonos/contract';
import { wording } from './wording.ts';

type Addressed = Pick<DocumentPage, 'number' | 'inForce' | 'revision' | 'versions'>;

/**
 * The addresses of a document that stay: the document and the file in force, which always lead to what is in force, and those of the
 * revision and version in view, which never change what they lead to. A revision without a label has none of its own.
 */
export const lastingAddresses = (
  { number, inForce, revision, versions }: Addressed,
  origin: string,
): { name: string; address: string }[] => {
  const [document, file] = [`${origin}/d/${encodeURIComponent(number)}`, `${origin}/f/${encodeURIComponent(number)}`];
  const { label } = revision;
  const rev = `rev=${encodeURIComponent(label)}`;
  const [newest] = versions;
  return [
    { name: wording.theDocument, address: document },
    ...(inForce ? [{ name: wording.theFileInForce, address: file }] : []),
    ...(label
      ? [
          { name: wording.revisionOf(label), address: `${document}?${rev}` },
          { name: wording.fileOfRevision(label), address: `${file}?${rev}` },
          ...(newest
            ? [{ name: wording.fileOfVersion(label, newest.n), address: `${file}?${rev}&v=${newest.n}` }]
            : []),
        ]
      : []),
  ];
};
