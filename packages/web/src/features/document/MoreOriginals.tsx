import { FileDrop } from '../../ui/FileDrop.tsx';
import { EMPTY_ROW, type OriginalRow } from './originals.ts';
import { wording } from './wording.ts';

/** The facts about an original: description, language, sheet. */
export const OriginalFacts = <T extends Pick<OriginalRow, 'description' | 'language' | 'sheet'>>({
  name,
  value,
  onChange,
}: {
  name: string;
  value: T;
  onChange: (value: T) => void;
}) => (
  <div className="grid grid-cols-[minmax(0,1fr)_64px_64px] gap-1.5">
    <input
      className="inp"
      aria-label={wording.descriptionOf(name)}
      placeholder={wording.descriptionOfThisFile}
      maxLength={200}
      value={value.description}
      onChange={(event) => onChange({ ...value, description: event.target.value })}
    />
    <input
      className="inp"
      aria-label={wording.languageOf(name)}
      placeholder="de"
      title={wording.language}
      value={value.language}
      onChange={(event) => onChange({ ...value, language: event.target.value })}
    />
    <input
      className="inp"
      aria-label={wording.sheetOf2(name)}
      placeholder="sheet"
      title={wording.sheetNumberStartingAt1}
      inputMode="numeric"
      value={value.sheet}
      onChange={(event) => onChange({ ...value, sheet: event.target.value.replace(/\D/g, '') })}
    />
  </div>
);

/** The other originals of a document: further files, sheets, or the same in other languages. */
export const MoreOriginals = ({
  rows,
  onChange,
}: {
  rows: readonly OriginalRow[];
  onChange: (rows: OriginalRow[]) => void;
}) => {
  const change = (index: number, next: Partial<OriginalRow>) =>
    onChange(rows.map((row, i) => (i === index ? { ...row, ...next } : row)));
  return (
    <div className="flex flex-col gap-2">
      {rows.map((row, index) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a row is identified by its place; files may be the same twice
        <div key={index} className="border-l-3 border-line pl-2.5">
          <div className="mb-1 flex items-center justify-between">
            <span className="cap">{wording.originalIndex(index + 2)}</span>
            <button type="button" className="btn !h-6" onClick={() => onChange(rows.filter((_, i) => i !== index))}>
              {wording.remove}
            </button>
          </div>
          {row.kept && !row.upload && (
            <p className="mb-1 truncate">
              <span className="num">{row.kept.name}</span>{' '}
              <span className="text-ink-3">{wording.staysUnlessReplaced}</span>
            </p>
          )}
          <FileDrop
            label={wording.fileIndex(index + 2)}
            value={row.upload}
            onChange={(upload) => change(index, { upload })}
          />
          <div className="mt-1">
            <OriginalFacts name={`original ${index + 2}`} value={row} onChange={(next) => change(index, next)} />
          </div>
        </div>
      ))}
      <div>
        <button type="button" className="btn !h-6" onClick={() => onChange([...rows, EMPTY_ROW])}>
          {wording.addOriginal}
        </button>
      </div>
    </div>
  );
};
