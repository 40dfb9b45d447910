import type { Covered } from '@kanonos/contract';
import { fingerprint } from '../../ui/format.ts';
import { wording } from './wording.ts';

/** What a signature covers, in plain words, folded: each file with its fingerprint, each field with its value. */
export const CoveredList = ({ covers }: { covers: Covered }) => (
  <details className="mt-1.5 text-[12px]">
    <summary className="min-h-6 cursor-pointer text-petrol">
      {wording.signatureCovers(covers.files.length, covers.fields.length)}
    </summary>
    <ul className="mt-1 max-h-40 overflow-y-auto border-l-2 border-line pl-2">
      {covers.files.map((file) => (
        <li key={file.name + file.sha256} className="break-words">
          {file.name} <span className="num text-ink-3">{fingerprint(file.sha256)}</span>
        </li>
      ))}
      {covers.fields.map((field) => (
        <li key={field.label} className="break-words">
          <span className="text-ink-3">{field.label}:</span> {field.value}
        </li>
      ))}
    </ul>
  </details>
);
