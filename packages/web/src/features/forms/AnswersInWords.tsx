import { wording } from './wording.ts';

/** Answers in words, section by section. */
export const AnswersInWords = ({
  sections,
}: {
  sections: readonly { title: string; lines: readonly { key: string; label: string; value: string }[] }[];
}) =>
  sections.length === 0 ? (
    <p className="text-ink-2">{wording.nothingAnswered}</p>
  ) : (
    <div className="flex flex-col gap-3">
      {sections.map(({ title, lines }) => (
        <section key={title} aria-label={title} className="border border-line bg-sheet">
          <h3 className="cap border-b border-line bg-film-2 px-3 py-1.5">{title}</h3>
          <dl>
            {lines.map(({ key, label, value }) => (
              <div
                key={key}
                className="grid grid-cols-[200px_minmax(0,1fr)] gap-3 border-b border-line-2 px-3 py-1.5 last:border-0 max-md:grid-cols-1 max-md:gap-0"
              >
                <dt className="text-ink-2">{label}</dt>
                <dd className="whitespace-pre-wrap">{value}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </div>
  );
