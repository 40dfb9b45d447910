/** Drawing formats by what can be read of them. */
const OPEN = new Set(['dxf', 'svg']);
const CLOSED = new Set([
  'dwg',
  'dgn',
  'rvt',
  'sldprt',
  'sldasm',
  'slddrw',
  'ipt',
  'iam',
  'catpart',
  'catproduct',
  'prt',
  'asm',
]);

export const drawingFormat = (extension: string): 'open' | 'closed' | 'none' =>
  OPEN.has(extension.toLowerCase()) ? 'open' : CLOSED.has(extension.toLowerCase()) ? 'closed' : 'none';

const baseOf = (path: string) => path.split(/[\\/]/).at(-1) ?? '';

/**
 * Files that a DXF drawing refers to: blocks that are external references (flag 4 of group 70, path in group 1), underlays and
 * images (group 1 of IMAGEDEF and the underlay definitions). Pairs of lines as the format writes them.
 */
export const dxfReferences = (text: string): string[] => {
  const lines = text.split(/\r?\n/);
  const found: string[] = [];
  let entity = '';
  let isReference = false;
  for (let i = 0; i + 1 < lines.length; i += 2) {
    const [code, value] = [lines[i]?.trim(), lines[i + 1]?.trim() ?? ''];
    if (code === '0') {
      entity = value;
      isReference = /^(IMAGEDEF|PDFDEFINITION|DWFDEFINITION|DGNDEFINITION)$/.test(entity);
    } else if (code === '70' && entity === 'BLOCK') isReference = (Number(value) & 4) !== 0;
    else if (code === '1' && isReference && value) found.push(baseOf(value));
  }
  return [...new Set(found)];
};

/** Files that an SVG refers to: pictures and uses of other files; what is inside it or on the web is none. */
export const svgReferences = (text: string): string[] => {
  const found = [
    ...text.matchAll(/<(?:image|use|feImage|foreignObject)\b[^>]*?\b(?:xlink:)?href\s*=\s*["']([^"']+)["']/gi),
  ];
  return [
    ...new Set(
      found
        .map((match) => (match[1] ?? '').split('#')[0] ?? '')
        .filter((href) => href !== '' && !/^[a-z][a-z0-9+.-]*:/i.test(href))
        .map((href) => baseOf(decodeName(href))),
    ),
  ];
};

const decodeName = (href: string): string =>
  href.replace(/(?:%[0-9a-f]{2})+/gi, (coded) => {
    try {
      return decodeURIComponent(coded);
    } catch {
      return coded;
    }
  });
