import { expect, test } from 'vitest';
import { drawingFormat, dxfReferences, svgReferences } from './references.ts';

test('a DXF names its external blocks and pictures, and not the text of its own blocks', () => {
  const pairs = (...parts: (string | number)[]) => parts.join('\r\n');
  const text = pairs(
    0,
    'BLOCK',
    2,
    'TOWER',
    70,
    4,
    1,
    'C:\\lines\\THR-DWG-2207.dxf',
    0,
    'BLOCK',
    2,
    'OWN',
    70,
    0,
    1,
    'no reference',
    0,
    'IMAGEDEF',
    1,
    '../photos/sheave.png',
    0,
    'TEXT',
    1,
    'words',
    0,
    'BLOCK',
    2,
    'AGAIN',
    70,
    12,
    1,
    '/x/THR-DWG-2207.dxf',
  );
  expect(dxfReferences(text)).toEqual(['THR-DWG-2207.dxf', 'sheave.png']);
});

test('an SVG names files beside it; what is inside it or on the web is none', () => {
  const svg = `<svg><image xlink:href="plan%20one.png"/><use href="#own"/><use href='parts/sheave.svg#a'/>
    <image href="data:image/png;base64,AA"/><image href="https://x.example/y.png"/></svg>`;
  expect(svgReferences(svg)).toEqual(['plan one.png', 'sheave.svg']);
});

test('unreadable formats are distinguished from those without references', () => {
  expect(['DXF', 'dwg', 'pdf'].map(drawingFormat)).toEqual(['open', 'closed', 'none']);
});
