import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { type DrawnText, textsOfDrawing, withTexts } from './texts.ts';

const SVG = '<svg viewBox="0 -50 100 50">\n <g transform="matrix(1,0,0,-1,0,0)"><path d="M0,0L100,50" /></g>\n</svg>';
const text = (more: object) => ({
  type: 'TEXT',
  string: 'Brake',
  x: 10,
  y: 20,
  textHeight: 5,
  transforms: [],
  ...more,
});
const one = (entity: object): DrawnText => {
  const [found] = textsOfDrawing([{ ...entity }]);
  if (!found) throw new Error('no text');
  return found;
};
const rounded = ({ place }: DrawnText) => place.map((value) => Math.round(value * 1000) / 1000 + 0);

describe('a line of text', () => {
  test('is at its point, in its height and rotation', () => {
    expect(rounded(one(text({})))).toEqual([5, 0, 0, 5, 10, 20]);
    expect(rounded(one(text({ rotation: 90 })))).toEqual([0, 5, -5, 0, 10, 20]);
  });

  test('that is aligned is at its second point', () => {
    const second = { x2: 40, y2: 41 };
    const placed = (across: number, up: number) => {
      const { place, anchor, rise } = one(text({ ...second, hAlign: across, vAlign: up }));
      return [place[4], anchor, rise];
    };
    expect(placed(1, 0)).toEqual([40, 'middle', 0]);
    expect(placed(2, 3)).toEqual([40, 'end', -1]);
    expect(placed(4, 0)).toEqual([40, 'middle', -0.5]);
    expect(placed(0, 2)).toEqual([40, 'start', -0.5]);
    // Stretched between two points it begins at the first.
    expect(placed(5, 0)).toEqual([10, 'start', 0]);
    expect(one(text({ hAlign: 1 })).place[4]).toBe(10);
  });

  test('in a block goes where its insert puts it, through every block around it', () => {
    const insert = { x: 100, y: 0, scaleX: 2, scaleY: 2 };
    expect(rounded(one(text({ transforms: [insert] })))).toEqual([10, 0, 0, 10, 120, 40]);
    const turned = { x: 0, y: 0, rotation: 90 };
    expect(rounded(one(text({ transforms: [insert, turned] })))).toEqual([0, 10, -10, 0, -40, 120]);
    expect(rounded(one(text({ transforms: [{ x: 0, y: 0, extrusionZ: -1 }] })))).toEqual([-5, 0, 0, 5, -10, 20]);
  });

  test('without words, or hidden in its block, is none', () => {
    const hidden = { type: 'ATTRIB', attributeFlags: 1, text: { string: 'secret', x: 0, y: 0 }, transforms: [] };
    expect(
      textsOfDrawing([text({ string: ' ' }), hidden, { type: 'LINE' }, { type: 'ATTDEF', text: { string: 'TAG' } }]),
    ).toEqual([]);
  });
});

test('the value of an attribute is a text of the drawing', () => {
  const { lines, place } = one({ type: 'ATTRIB', text: { string: 'P02', x: 3, y: 4, textHeight: 2 }, transforms: [] });
  expect([lines, place[4], place[5], place[0]]).toEqual([['P02'], 3, 4, 2]);
});

describe('a paragraph', () => {
  const paragraph = (more: object) =>
    one({ type: 'MTEXT', string: 'One\\PTwo', x: 0, y: 0, nominalTextHeight: 2, transforms: [], ...more });

  test('hangs from, is centred on or rests on its point', () => {
    const placed = (at: number) => {
      const { anchor, rise } = paragraph({ attachmentPoint: at });
      return [anchor, Math.round(rise * 10) / 10];
    };
    expect(placed(1)).toEqual(['start', -1]);
    expect(placed(5)).toEqual(['middle', 0.3]);
    expect(placed(9)).toEqual(['end', 1.6]);
  });

  test('is broken where it is wider than it may be, and never within a word', () => {
    expect(paragraph({ string: 'Torque the bolts', refRectangleWidth: 13 }).lines).toEqual(['Torque', 'the bolts']);
    expect(paragraph({ string: 'Torque the bolts' }).lines).toEqual(['Torque the bolts']);
    expect(paragraph({ string: 'Unbreakable', refRectangleWidth: 1 }).lines).toEqual(['Unbreakable']);
  });

  test('runs along its own axis', () => {
    expect(rounded(paragraph({ xAxisX: 0, xAxisY: 3 }))).toEqual([0, 2, -2, 0, 0, 0]);
  });
});

describe('the picture of a drawing', () => {
  test('has its texts upright, and its frame holds them', () => {
    const svg = withTexts(SVG, [one(text({ x: 95, y: 60 }))]);
    expect(svg).toContain('matrix(0.05 0 0 -0.05 95 60)');
    expect(svg).toContain('>Brake</tspan>');
    const [x = 0, y = 0, width = 0, height = 0] = (/viewBox="([^"]+)"/.exec(svg)?.[1] ?? '').split(' ').map(Number);
    expect([x, y <= -65, x + width > 110, y + height]).toEqual([0, true, true, 0]);
  });

  test('of texts alone has a frame of its own', () => {
    const svg = withTexts(SVG.replace('0 -50 100 50', '0 0 0 0'), [one(text({ x: 1000, y: 1000 }))]);
    const [x = 0, y = 0] = (/viewBox="([^"]+)"/.exec(svg)?.[1] ?? '').split(' ').map(Number);
    expect([x, y < -1000]).toEqual([1000, true]);
  });

  test('stays as it is where there are no texts, or it is no picture', () => {
    expect(withTexts(SVG, [])).toBe(SVG);
    expect(withTexts('nothing', [one(text({}))])).toBe('nothing');
  });

  test('runs nothing and breaks on no text', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', maxLength: 40 }), fc.double(), fc.double(), (words, x, height) => {
        const svg = withTexts(SVG, textsOfDrawing([text({ string: words, x, textHeight: height })]));
        expect(svg.match(/<(?!\/?(svg|g|path|text|tspan)\b)/)).toBeNull();
        expect(svg).not.toContain('NaN');
      }),
    );
    expect(withTexts(SVG, [one(text({ string: 'a\u0000b\u001fc\ud800d' }))])).toContain('>abcd<');
    expect(withTexts(SVG, [one(text({ string: '<script>"&' }))])).toContain('&#60;script&#62;&#34;&#38;');
  });
});
