import { readdirSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { pictureOf } from '../figures/pictures.ts';
import { blocksOf } from './blocks.ts';

const TEXTS = new URL('../../texts/', import.meta.url);
const figuresOf = (markdown: string) => blocksOf(markdown).flatMap((block) => (block.kind === 'figure' ? [block] : []));

describe('the blocks of a text', () => {
  it('give the name of a figure as it is written, not as an address on the web', () => {
    expect(figuresOf('![Figure 1: Order](flow:Weather_and|wind;Run_at|0.5_m/s²)')).toEqual([
      { kind: 'figure', name: 'flow:Weather_and|wind;Run_at|0.5_m/s²', caption: 'Figure 1: Order' },
    ]);
  });

  it('name figures that somebody draws, in every text', async () => {
    const names = readdirSync(TEXTS)
      .filter((name) => name.endsWith('.md'))
      .flatMap((name) => figuresOf(readFileSync(new URL(name, TEXTS), 'utf8')));
    expect(names.length).toBeGreaterThan(10);
    for (const { name } of names) expect((await pictureOf(name)).width, name).toBeGreaterThan(100);
  });
});
