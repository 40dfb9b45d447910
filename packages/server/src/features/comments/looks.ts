import { looksSame, type Mark, type Raster } from '@kanonos/core';
import type { App } from '../../platform/app.ts';
import { hasSmall, isShownByPages } from '../../platform/content/kind.ts';
import { parse } from '../../platform/parsing/index.ts';

/** Pixels of the longer side of a page that is compared. */
const SIDE = 900;
const MOST_BYTES = 60 * 1024 * 1024;
const KEPT = 5000;
/** The result for two contents and a mark never changes. */
const known = new Map<string, boolean>();

export type Content = { sha256: string; media_type: string; size: number };

const canBeDrawn = ({ media_type, size }: Content): boolean =>
  hasSmall(media_type) && !isShownByPages(media_type) && Number(size) <= MOST_BYTES;

/** Looks at marks of one request: each page is drawn once. */
export const createLooks = (app: App) => {
  const pages = new Map<string, Promise<Raster>>();
  const draw = async ({ sha256, media_type }: Content, page: number): Promise<Raster> => {
    return parse('raster', await app.content.intactPath(sha256), media_type, page, SIDE);
  };
  const drawn = (content: Content, page: number): Promise<Raster> => {
    const key = `${content.sha256} ${page}`;
    const found = pages.get(key) ?? draw(content, page);
    pages.set(key, found);
    return found;
  };
  /** Whether a mark's place looks as it did; undefined where the files cannot be drawn. */
  return async (mark: Mark, before: Content, now: Content): Promise<boolean | undefined> => {
    if (!canBeDrawn(before) || !canBeDrawn(now)) return undefined;
    const key = `${before.sha256} ${now.sha256} ${mark.page} ${JSON.stringify(mark.points)}`;
    const found = known.get(key);
    if (found !== undefined) return found;
    try {
      const same = looksSame(mark, await drawn(before, mark.page), await drawn(now, mark.page));
      if (known.size > KEPT) known.clear();
      known.set(key, same);
      return same;
    } catch (error) {
      app.log.warn(
        { reason: String(error).slice(0, 200), sha256: now.sha256 },
        'the place of a mark was not looked at',
      );
      return undefined;
    }
  };
};
