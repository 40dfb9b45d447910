import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { annotationOf, fromPage, markOfAnnotation, type PageBox, toPage } from './annotations.ts';
import { boxOf, checkMark, cloudPath, type Mark } from './marks.ts';
import { findPlace, pageOfPlace, quoteAt } from './place.ts';

const TEXT =
  'The grip is opened by hand. The slip force is measured three times, and the lowest value counts.\nThe slip force of a new grip is 4.2 kN.';
const at = (text: string, nth = 0) => {
  let start = -1;
  for (let i = 0; i <= nth; i++) start = TEXT.indexOf(text, start + 1);
  return quoteAt(TEXT, start, start + text.length);
};
const found = (text: string, quote: ReturnType<typeof at>) => {
  const place = findPlace(text, quote);
  return place && text.slice(place.start, place.end);
};

describe('the place of a comment', () => {
  test('is found again where text was added before and after it', () => {
    const quote = at('lowest value counts');
    expect(found(`Preface, much longer than before.\n${TEXT} And more.`, quote)).toBe('lowest value counts');
  });

  test('of words that occur twice is the one with the same surroundings', () => {
    const second = at('slip force', 1);
    const place = findPlace(TEXT, second);
    expect(place?.start).toBe(TEXT.lastIndexOf('slip force'));
    expect(findPlace(TEXT, at('slip force'))?.start).toBe(TEXT.indexOf('slip force'));
  });

  test('is found over other blanks, line ends and case', () => {
    expect(found('THE SLIP\nFORCE  IS measured\tthree times', at('slip force is measured three'))).toBe(
      'SLIP\nFORCE  IS measured\tthree',
    );
  });

  test('is the same where some of its text changed, and lost where most did', () => {
    const quote = at('slip force is measured three times, and the lowest value counts');
    expect(found(TEXT.replace('three', 'five'), quote)).toBe(
      'slip force is measured five times, and the lowest value counts',
    );
    expect(found('The grip is opened by hand. Nothing is measured.', quote)).toBeUndefined();
  });

  test('is on the page given by the form feeds', () => {
    expect([0, 4, 5].map((place) => pageOfPlace('one\ftwo', place))).toEqual([1, 2, 2]);
  });

  test('is found again whatever is edited elsewhere', () => {
    const word = fc.stringMatching(/^[a-z]{1,6}$/);
    const text = fc.array(word, { minLength: 1, maxLength: 12 });
    fc.assert(
      fc.property(
        text,
        fc.array(word, { minLength: 2, maxLength: 6 }),
        text,
        text,
        text,
        (before, quoted, after, more, less) => {
          const old = [...before, ...quoted, ...after].join(' ');
          const start = before.join(' ').length + 1;
          const quote = quoteAt(old, start, start + quoted.join(' ').length);
          const text = [...more, ...quoted, ...less].join(' ');
          const place = findPlace(text, quote);
          expect(place && text.slice(place.start, place.end)).toBe(quoted.join(' '));
        },
      ),
    );
  });
});

describe('a mark', () => {
  const mark: Mark = {
    tool: 'box',
    page: 1,
    points: [
      [0.1, 0.2],
      [0.5, 0.6],
    ],
    colour: '#a52c15',
  };
  test('lies on its page and has its points', () => {
    expect(checkMark(mark)).toEqual([]);
    const wrong: Mark[] = [
      { ...mark, page: 0 },
      { ...mark, points: [[0.1, 0.2]] },
      {
        ...mark,
        points: [
          [0.1, 0.2],
          [1.5, 0],
        ],
      },
      { ...mark, colour: 'red' },
      { ...mark, tool: 'stamp', points: [[0, 0]] },
      {
        ...mark,
        points: [
          [Number.NaN, 0],
          [1, 1],
        ],
      },
    ];
    for (const one of wrong) expect(checkMark(one).map((r) => r.code)).toEqual(['mark_wrong']);
  });

  test('has an upright box, and a cloud that is closed and made of arcs', () => {
    const box = boxOf([
      [0.5, 0.6],
      [0.1, 0.2],
    ]);
    expect(box).toEqual({ x: 0.1, y: 0.2, width: 0.4, height: expect.closeTo(0.4) });
    const path = cloudPath({ x: 0, y: 0, width: 40, height: 20 }, 10);
    expect(path).toMatch(/^M 0 0 A .* 0 0 Z$/);
    expect(path.match(/A /g)).toHaveLength(12);
  });
});

describe('a mark in a PDF', () => {
  const page: PageBox = { x: 10, y: 20, width: 600, height: 800, rotation: 0 };
  test('keeps its place on the shown page, however that is turned', () => {
    const part = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(part, part, fc.constantFrom(0, 90, 180, 270), (x, y, rotation) => {
        const box = { ...page, rotation: rotation as PageBox['rotation'] };
        const [px, py] = toPage([x, y], box);
        expect(px).toBeGreaterThanOrEqual(10);
        expect(py).toBeLessThanOrEqual(820);
        const [bx, by] = fromPage([px, py], box);
        expect([bx, by]).toEqual([expect.closeTo(x, 6), expect.closeTo(y, 6)]);
      }),
    );
    // The upper left of a page that is turned by a quarter is its lower left.
    expect(toPage([0, 0], { ...page, rotation: 90 })).toEqual([10, 20]);
    expect(toPage([0, 0], page)).toEqual([10, 820]);
  });

  test('of every tool comes back as what it was', () => {
    const two: Mark['points'] = [
      [0.2, 0.2],
      [0.4, 0.5],
    ];
    const marks: Mark[] = [
      { tool: 'box', page: 3, points: two, colour: '#a52c15' },
      { tool: 'cloud', page: 3, points: two, colour: '#a52c15' },
      { tool: 'arrow', page: 3, points: two, colour: '#0b5563' },
      { tool: 'line', page: 3, points: two, colour: '#0b5563' },
      { tool: 'free', page: 3, points: [...two, [0.5, 0.1]], colour: '#0b5563' },
      { tool: 'highlight', page: 3, points: two, colour: '#f0c419' },
      { tool: 'text', page: 3, points: [[0.1, 0.1]], colour: '#0b5563', text: 'See (B) \\ here' },
      { tool: 'stamp', page: 3, points: [[0.1, 0.1]], colour: '#0b5563', text: 'Checked\nLin Sato' },
    ];
    for (const mark of marks) {
      const made = annotationOf(mark, page);
      const back = markOfAnnotation(
        {
          subtype: made.subtype,
          rect: made.rect,
          colour: made.colour,
          text: made.text ?? '',
          ...(made.line ? { line: made.line.points, arrow: made.line.arrow } : {}),
          ...(made.ink ? { ink: made.ink } : {}),
          ...(made.cloudy ? { cloudy: true } : {}),
        },
        page,
        3,
      );
      expect(back).toMatchObject({
        tool: mark.tool,
        page: 3,
        colour: mark.colour,
        ...(mark.text ? { text: mark.text } : {}),
      });
      for (const [i, [x, y]] of mark.points.entries()) {
        const [bx = 0, by = 0] = back?.points[i] ?? [];
        // A cloud's rectangle is larger by the size of its arcs.
        expect(Math.abs(bx - x) + Math.abs(by - y)).toBeLessThan(mark.tool === 'cloud' ? 0.04 : 0.006);
      }
    }
  });

  test('writes its words in characters of its font, with brackets escaped', () => {
    const { drawing } = annotationOf(
      { tool: 'text', page: 1, points: [[0, 0]], colour: '#000000', text: 'a (b) 漢' },
      page,
    );
    expect(drawing).toContain('(a \\(b\\) ?)');
  });

  test('is none where the annotation is no remark', () => {
    // A note is at the start of its rectangle and has a size of its own, however narrow the rectangle is.
    const note = markOfAnnotation({ subtype: 'Text', rect: [300, 700, 300.05, 714], text: 'Which?' }, page, 1);
    expect(note?.tool).toBe('box');
    const [from, to] = (note?.points ?? []).map((point) => toPage(point, page));
    expect(from?.map(Math.round)).toEqual([300, 714]);
    expect(to?.map(Math.round)).toEqual([318, 696]);
    expect(markOfAnnotation({ subtype: 'Link', rect: [0, 0, 1, 1], text: '' }, page, 1)).toBeUndefined();
    expect(markOfAnnotation({ subtype: 'Ink', rect: [0, 0, 1, 1], text: '', ink: [1, 1] }, page, 1)).toBeUndefined();
  });
});
