/** A sheet of paper with, where wanted, a mark over its whole length. */
export const Sheet = ({
  children,
  mark,
  width,
}: {
  children: React.ReactNode;
  mark?: string | undefined;
  /** In pixels; left out: as wide as a page is read. */
  width?: number;
}) => (
  <div
    className={`sheet mx-auto ${width ? '' : 'max-w-[760px]'} ${mark ? 'marked marked-long' : ''}`}
    style={{ ...(width ? { width } : {}), ...(mark ? { '--mark-image': markImage(mark) } : {}) } as React.CSSProperties}
    {...(mark ? { 'data-mark': mark } : {})}
  >
    {children}
  </div>
);

/** The mark as a repeating picture, so that every page shows it however long the text is. */
const markImage = (mark: string): string =>
  `url("data:image/svg+xml,${encodeURIComponent(`<svg xmlns='http://www.w3.org/2000/svg' width='520' height='340'><text x='260' y='190' text-anchor='middle' transform='rotate(-26 260 170)' font-family='Archivo, sans-serif' font-weight='700' font-size='46' letter-spacing='6' fill='#a52c15' fill-opacity='.17'>${mark.toUpperCase()}</text></svg>`)}")`;
