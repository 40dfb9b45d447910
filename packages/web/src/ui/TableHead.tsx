/** A column's heading; `hidden` is met by screen readers alone, as over a column of buttons. */
export type Heading = { text: string; className?: string; hidden?: boolean };

/** The head of a table, one cell for each heading, in the order of the columns. */
export const TableHead = ({
  headings,
  className = 'bg-film-2',
  cell = 'px-3 py-1.5',
}: {
  headings: readonly (string | Heading)[];
  className?: string;
  cell?: string;
}) => (
  <thead className={`text-left ${className}`}>
    <tr className="border-b border-line">
      {headings.map((heading) => {
        const { text, className: own = '', hidden = false } = typeof heading === 'string' ? { text: heading } : heading;
        return (
          // What is hidden stands apart from the page's flow: kept within its cell, it does not widen a page whose table scrolls.
          <th key={text} className={`cap ${cell} ${own} ${hidden ? 'relative' : ''}`}>
            {hidden ? <span className="sr-only">{text}</span> : text}
          </th>
        );
      })}
    </tr>
  </thead>
);
