import { svg } from './svg.ts';

const grain = (id: string, frequency: string, seed: number, slope: number) =>
  `<filter id="${id}" x="0" y="0" width="100%" height="100%"><feTurbulence type="fractalNoise" baseFrequency="${frequency}" numOctaves="4" seed="${seed}"/><feColorMatrix type="matrix" values="0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 ${slope} -0.12"/></filter>`;
const scene = (sky: string, ground: string, frequency: string, seed: number, ...parts: string[]) =>
  svg(
    720,
    480,
    `<defs>${grain('g', frequency, seed, 0.55)}<radialGradient id="v" cx="50%" cy="42%" r="75%"><stop offset="0.55" stop-color="#000" stop-opacity="0"/><stop offset="1" stop-color="#000" stop-opacity="0.55"/></radialGradient><linearGradient id="m" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="#d3d8da"/><stop offset="0.45" stop-color="#8b9498"/><stop offset="1" stop-color="#3c4447"/></linearGradient><linearGradient id="s" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="${sky}"/><stop offset="1" stop-color="${ground}"/></linearGradient></defs>`,
    '<rect width="720" height="480" fill="url(#s)"/>',
    ...parts,
    '<rect width="720" height="480" filter="url(#g)"/><rect width="720" height="480" fill="url(#v)"/>',
  );
const spring = (x: number) => `<path d="M${x} 150c26 0 26 180 0 180" fill="none" stroke="url(#m)" stroke-width="17"/>`;

/** Pictures in the manner of photographs: light, grain and dark corners over a drawn subject. */
export const PHOTOGRAPHS: Record<string, () => string> = {
  'spring-pack': () =>
    scene(
      '#7b8a86',
      '#2f3a37',
      '0.9',
      7,
      '<rect x="90" y="130" width="540" height="220" rx="20" fill="#59635f"/>',
      ...Array.from({ length: 11 }, (_, n) => spring(130 + n * 44)),
      '<rect x="84" y="120" width="26" height="240" fill="url(#m)"/><rect x="612" y="120" width="26" height="240" fill="url(#m)"/>',
    ),
  'jaw-wear': () =>
    scene(
      '#8d8577',
      '#3b352c',
      '0.7 0.2',
      3,
      '<path d="M120 110h480l-60 260h-360z" fill="url(#m)"/><path d="M170 250c60 70 320 70 380 0l-16 70c-60 50 -290 50 -348 0z" fill="#6b5636"/><path d="M250 300l40 14l30 -8l44 18" stroke="#22190c" stroke-width="4" fill="none"/><circle cx="210" cy="160" r="26" fill="#444c4f"/><circle cx="510" cy="160" r="26" fill="#444c4f"/>',
    ),
  'rope-surface': () =>
    scene(
      '#9aa7ad',
      '#4a5559',
      '0.8',
      11,
      '<rect y="160" width="720" height="150" fill="url(#m)"/>',
      ...Array.from(
        { length: 24 },
        (_, n) =>
          `<path d="M${n * 34 - 40} 310c20 -20 40 -130 74 -150" stroke="#30383b" stroke-width="6" fill="none"/>`,
      ),
      '<path d="M386 200l22 -16m-14 30l26 -12" stroke="#e9ecee" stroke-width="4"/>',
    ),
  'tower-ice': () =>
    scene(
      '#c6d3de',
      '#8ea3b3',
      '0.02 0.09',
      5,
      '<path d="M300 470L336 60M420 470L384 60M260 80h210M310 360h100M320 260h80M328 170h64" stroke="#46525a" stroke-width="14" fill="none"/><path d="M262 72h208l-6 22l-14 -8l-10 30l-14 -26l-16 40l-20 -38l-24 24l-18 -30l-22 36l-20 -34l-16 14l-14 -16z" fill="#eef6fb"/>',
    ),
};
