import { describe, expect, it } from 'vitest';
import { chooseTitle, isMeaningless, markdownHeadings, titleHeading } from './fileTitle.ts';

describe('the title of a file', () => {
  it('is its heading, else its property, else its name', () => {
    const read = { heading: 'Grip overhaul', property: 'Overhaul of grips', name: 'Grips' };
    expect(chooseTitle(read)).toEqual({ title: 'Grip overhaul', from: 'heading' });
    expect(chooseTitle({ ...read, heading: ' ' })).toEqual({ title: 'Overhaul of grips', from: 'properties' });
    expect(chooseTitle({ ...read, heading: '', property: '' })).toEqual({ title: 'Grips', from: 'name' });
  });

  it.each(['Document1', 'Untitled', 'Microsoft Word - plan.docx', 'plan.doc', 'Title', '  '])(
    'is not the property %s, which a program wrote',
    (property) => {
      expect(chooseTitle({ heading: '', property, name: 'Plan of the line' }).from).toBe('name');
    },
  );

  it('passes over a heading without meaning', () => {
    expect(chooseTitle({ heading: 'Page 1', property: 'Rope test', name: '' }).title).toBe('Rope test');
  });

  it('stays empty where nothing gives one', () => {
    expect(chooseTitle({ heading: '', property: '', name: '' })).toEqual({ title: '', from: 'name' });
  });
});

describe('a name without meaning', () => {
  it.each(['scan 0012', 'IMG_2044', 'Dokument 1', '2026-11-25', '', 'New'])('is %s', (name) => {
    expect(isMeaningless(name)).toBe(true);
  });
  it.each(['Scan of the rope', 'Document control', '3 grips', 'Newton'])('is not %s', (name) => {
    expect(isMeaningless(name)).toBe(false);
  });
});

describe('the heading that is a title', () => {
  it('is a paragraph in a title style, wherever it is', () => {
    expect(
      titleHeading([
        { level: 1, text: 'Thornway' },
        { level: 'title', text: ' Evacuation plan ' },
      ]),
    ).toBe('Evacuation plan');
  });

  it('is the only heading of the first level at the beginning', () => {
    expect(
      titleHeading([
        { level: 1, text: 'Grip overhaul' },
        { level: 2, text: 'Purpose' },
      ]),
    ).toBe('Grip overhaul');
  });

  it('is none of several chapters, nor one after others', () => {
    const chapters = ['Purpose', 'Scope'].map((text) => ({ level: 1, text }) as const);
    expect(titleHeading(chapters)).toBe('');
    expect(
      titleHeading([
        { level: 2, text: 'Note' },
        { level: 1, text: 'Purpose' },
      ]),
    ).toBe('');
    expect(titleHeading([])).toBe('');
  });
});

describe('headings of Markdown', () => {
  it('are read with # and underlined, without their marks', () => {
    expect(markdownHeadings('# **Grip** `overhaul` ##\n\nWords\n\nLimits\n---\n\n## [Scope](a.md)\n')).toEqual([
      { level: 1, text: 'Grip overhaul' },
      { level: 2, text: 'Limits' },
      { level: 2, text: 'Scope' },
    ]);
    expect(markdownHeadings('Rope test\n=========\n')).toEqual([{ level: 1, text: 'Rope test' }]);
  });

  it('are not looked for in code, front matter or words with #', () => {
    expect(markdownHeadings('---\ntitle: x\n---\n```\n# code\n```\n~~~~\n# more\n~~~\n~~~~\n#5 is a number\n')).toEqual(
      [],
    );
  });

  it('keep an underscore within a word', () => {
    expect(markdownHeadings('# part_no list\n')).toEqual([{ level: 1, text: 'part_no list' }]);
  });

  it('do not take a rule under nothing for an underline', () => {
    expect(markdownHeadings('\n---\n\ntext\n')).toEqual([]);
  });
});
