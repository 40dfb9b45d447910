import type { PDFPage } from '@cantoo/pdf-lib';
import type { PageBox } from '@kanonos/core';

/** The visible part of a page as pages are shown: the crop box within the media box, and how far it is turned. */
export const boxOfPage = (page: PDFPage): PageBox => {
  const [media, crop] = [page.getMediaBox(), page.getCropBox()];
  const x = Math.max(media.x, crop.x);
  const y = Math.max(media.y, crop.y);
  return {
    x,
    y,
    width: Math.min(media.x + media.width, crop.x + crop.width) - x,
    height: Math.min(media.y + media.height, crop.y + crop.height) - y,
    rotation: ((((page.getRotation().angle % 360) + 360) % 360) as PageBox['rotation']) || 0,
  };
};
