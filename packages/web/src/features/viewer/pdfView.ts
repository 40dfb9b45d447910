/** How the pages of a PDF are looked at; `zoom` 1 is as wide as there is room, up to the width at which a page is read. */
export type PdfView = { zoom: number; turn: 0 | 90 | 180 | 270; two: boolean; side: 'none' | 'pages' | 'outline' };

/** The width at which a page is read, in pixels. */
export const READING_WIDTH = 720;
