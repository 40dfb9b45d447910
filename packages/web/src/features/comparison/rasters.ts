import { api, type SideContent } from '@kanonos/contract';
import { GlobalWorkerOptions, getDocument, type PDFDocumentProxy } from 'pdfjs-dist';
import workerAddress from 'pdfjs-dist/build/pdf.worker.min.mjs?url';
import { addressOf, call } from '../../app/client.ts';
import { wording } from './wording.ts';

GlobalWorkerOptions.workerSrc = workerAddress;

const WIDTH = 1400;
const MOST_WAITS = 120;
type File = SideContent['files'][number];

/** A file as pictures of its pages, each drawn when it is asked for. */
export type Pages = { count: number; draw: (page: number) => Promise<HTMLCanvasElement>; close: () => void };

const canvasOf = (width: number, height: number): [HTMLCanvasElement, CanvasRenderingContext2D] => {
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [Math.round(width), Math.round(height)];
  const context = canvas.getContext('2d', { willReadFrequently: true });
  if (!context) throw new Error('This browser cannot draw images.');
  context.fillStyle = '#fff';
  context.fillRect(0, 0, canvas.width, canvas.height);
  return [canvas, context];
};

const pagesOfPdf = async (address: string): Promise<Pages> => {
  const task = getDocument({ url: address, isEvalSupported: false, enableXfa: false });
  const pdf: PDFDocumentProxy = await task.promise;
  return {
    count: pdf.numPages,
    draw: async (number) => {
      const page = await pdf.getPage(number);
      const viewport = page.getViewport({ scale: WIDTH / page.getViewport({ scale: 1 }).width });
      const [canvas] = canvasOf(viewport.width, viewport.height);
      await page.render({ canvas, viewport }).promise;
      return canvas;
    },
    close: () => void task.destroy(),
  };
};

const pagesOfPicture = async (address: string): Promise<Pages> => {
  const image = new Image();
  image.src = address;
  await image.decode();
  return {
    count: 1,
    draw: async () => {
      const [canvas, context] = canvasOf(WIDTH, (WIDTH * image.naturalHeight) / (image.naturalWidth || 1));
      context.drawImage(image, 0, 0, canvas.width, canvas.height);
      return canvas;
    },
    close: () => {},
  };
};

/** Waits until the pages of a file are made, which begins when they are first asked for. */
const madePages = async (file: File): Promise<string> => {
  for (let i = 0; i < MOST_WAITS; i++) {
    const { state, why } = await call(api.viewing.pages, { params: { file: file.id } });
    if (state === 'done') return addressOf(api.viewing.pagesFile, { file: file.id });
    if (state === 'failed') throw new Error(wording.thePagesOfCouldNotBe(file.name, why ?? ''));
    await new Promise((resolve) => setTimeout(resolve, 1000));
  }
  throw new Error(wording.thePagesOfAreStillBeing(file.name));
};

export const openPages = async (file: File): Promise<Pages> =>
  file.show === 'pdf' || file.show === 'pages'
    ? pagesOfPdf(file.show === 'pages' ? await madePages(file) : addressOf(api.documents.file, { file: file.id }))
    : pagesOfPicture(
        file.show === 'drawing'
          ? addressOf(api.viewing.drawing, { file: file.id })
          : addressOf(api.documents.file, { file: file.id }),
      );

/** The pixels of two canvases on a common sheet: the larger height counts, what is missing is white. */
export const pixelsOf = (a: HTMLCanvasElement, b: HTMLCanvasElement) => {
  const [width, height] = [Math.max(a.width, b.width), Math.max(a.height, b.height)];
  const pixels = (canvas: HTMLCanvasElement) => {
    const [, context] = canvasOf(width, height);
    context.drawImage(canvas, 0, 0);
    return context.getImageData(0, 0, width, height).data;
  };
  return { width, height, before: pixels(a), after: pixels(b) };
};
