import { type Refusal, refusal } from '../result.ts';

/** What a reviewer draws onto a page or a picture. */
export const MARK_TOOLS = ['box', 'cloud', 'arrow', 'line', 'free', 'highlight', 'text', 'stamp'] as const;
export type MarkTool = (typeof MARK_TOOLS)[number];

/** A mark: its page (from 1), its points as parts of the page's width and height (0 to 1, from the upper left), its colour. */
export type Mark = {
  tool: MarkTool;
  page: number;
  points: readonly (readonly [number, number])[];
  colour: string;
  /** Its text, for words and stamps. */
  text?: string;
};

const MOST_POINTS = 2000;

/** Why a mark cannot be drawn. */
export const checkMark = (mark: Mark): Refusal[] => {
  const wrong = (reason: string) => [refusal('mark_wrong', { reason })];
  if (!Number.isInteger(mark.page) || mark.page < 1) return wrong('the page must be a whole number from 1');
  if (!/^#[0-9a-f]{6}$/i.test(mark.colour)) return wrong('the colour must be # and six hexadecimal digits');
  const [least, most] =
    mark.tool === 'free' ? [2, MOST_POINTS] : mark.tool === 'text' || mark.tool === 'stamp' ? [1, 2] : [2, 2];
  if (mark.points.length < least || mark.points.length > most) return wrong(`it needs ${least} to ${most} points`);
  if (mark.points.some(([x, y]) => !(x >= 0 && x <= 1 && y >= 0 && y <= 1)))
    return wrong('its points must be on the page');
  if ((mark.tool === 'text' || mark.tool === 'stamp') && !mark.text?.trim()) return wrong('enter a text');
  return [];
};

/** The upright box around a mark, in parts of the page. */
export const boxOf = (points: Mark['points']): { x: number; y: number; width: number; height: number } => {
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
};

/** The outline of a cloud around a box: arcs of about one size along its sides, as an SVG path; lengths in the unit of the box. */
export const cloudPath = (box: { x: number; y: number; width: number; height: number }, arc: number): string => {
  const { x, y, width, height } = box;
  const corners: [number, number][] = [
    [x, y],
    [x + width, y],
    [x + width, y + height],
    [x, y + height],
  ];
  const parts = [`M ${x} ${y}`];
  for (const [i, [fromX, fromY]] of corners.entries()) {
    const [toX, toY] = corners[(i + 1) % 4] as [number, number];
    const length = Math.hypot(toX - fromX, toY - fromY);
    const count = Math.max(1, Math.round(length / arc));
    const radius = length / count / 2;
    for (let n = 1; n <= count; n++)
      parts.push(
        `A ${radius} ${radius} 0 0 1 ${fromX + ((toX - fromX) * n) / count} ${fromY + ((toY - fromY) * n) / count}`,
      );
  }
  return `${parts.join(' ')} Z`;
};
