import { api, type Upload } from '@kanonos/contract';
import { drawingFormat, extensionOf } from '@kanonos/core';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { ask } from '../../app/client.ts';
import { documentAddress } from '../../ui/addresses.ts';
import { count } from '../../ui/format.ts';
import { wording } from './wording.ts';

/** What a drawing refers to, before it is filed: matched to documents, what is missing, and a warning where it cannot be read. */
export const DrawingReferences = ({ upload }: { upload: Upload }) => {
  const format = drawingFormat(extensionOf(upload.name));
  const { data } = useQuery({
    ...ask(api.documents.references, { params: { upload: upload.id } }),
    enabled: format === 'open',
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (format === 'closed')
    return (
      <p className="-mt-1 border-l-3 border-ochre bg-ochre-tint px-3 py-1.5 text-ochre">
        {wording.referencesInThisDrawingFormatCannot}
      </p>
    );
  if (!data?.references.length) return null;
  const missing = data.references.filter((one) => one.document === null);
  return (
    <div
      className={`-mt-1 border-l-3 px-3 py-1.5 ${missing.length ? 'border-ochre bg-ochre-tint' : 'border-petrol bg-petrol-tint'}`}
    >
      <p className={missing.length ? 'text-ochre' : ''}>
        {wording.filesTheDrawingRefersTo(count(data.references.length, 'file', 'files'))}
        {missing.length > 0 && wording.inNoDocumentYouMaySee(count(missing.length, 'is', 'are'))}.
      </p>
      <ul>
        {data.references.map((one) => (
          <li key={one.name} className="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] gap-2">
            <span className="num truncate">{one.name}</span>
            {one.document ? (
              <Link className="link truncate" to={documentAddress(one.document.number)}>
                <span className="num">{one.document.number}</span> {one.document.title}
              </Link>
            ) : (
              <span className="text-vermilion">{wording.missing}</span>
            )}
          </li>
        ))}
      </ul>
    </div>
  );
};
