// What other features may use of this one.
export { makeRenditions, resumeRenditions, retryRenditions } from './making.ts';
export { madePages } from './pages.ts';
export { scanText } from './scan.ts';
export { resumeTexts, takeText } from './textByPages.ts';
